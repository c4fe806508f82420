namespace HoldCourt.Server.Captions;

/// <summary>Turns speech into words.</summary>
internal interface IRecogniser
{
    /// <summary>It can work here.</summary>
    bool IsThere { get; }

    /// <summary>Begins to listen to one voice. What comes of it is disposed of when the voice ends.</summary>
    IHearing Begin();
}

/// <summary>One voice that is listened to. Used by one thread at a time.</summary>
internal interface IHearing : IDisposable
{
    /// <summary>Samples a second that it takes.</summary>
    const int Rate = 16_000;

    /// <returns>Words, when something that was said has just ended; null otherwise.</returns>
    string? Take(ReadOnlySpan<short> samples);

    /// <summary>The voice has fallen silent.</summary>
    /// <returns>Words of what was not told yet; null when there are none.</returns>
    string? End();
}
