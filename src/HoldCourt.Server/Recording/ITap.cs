using HoldCourt.Server.Media;

namespace HoldCourt.Server.Recording;

/// <summary>What a recording gets of a sitting's stage.</summary>
internal interface ITap : IReceiver
{
    /// <summary>Somebody speaks from now on; null when nobody does who is recorded.</summary>
    void Speaks(SeatId? seat);

    /// <summary>It can write no more.</summary>
    bool HasFailed { get; }

    /// <summary>Since when the disk has been full, and nothing is written; null while something is.</summary>
    Instant? StandsSince { get; }

    /// <summary>Up to when something had been written before the newest time that it stood still, once it goes on; null when that is
    /// known already.</summary>
    Instant? TakeGap();
}

/// <summary>Opens taps; one for each recording.</summary>
internal interface ITaps
{
    ITap Open(Guid sitting, int recording);
}
