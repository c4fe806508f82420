namespace HoldCourt.Server.Media;

/// <summary>
/// Somebody or something that receives frames: a browser's socket, and whatever else is to hear and see what a seat does. All of it is
/// called from several threads.
/// </summary>
internal interface IReceiver
{
    /// <summary>The seat whose rights it has.</summary>
    SeatId Seat { get; }

    /// <summary>What it carries, in bits a second.</summary>
    long Capacity { get; }

    /// <summary>It carries less than it might.</summary>
    bool IsSlow { get; }

    void Say(ToBrowser message);

    /// <param name="text">A message as UTF-8 JSON, shared with others.</param>
    void Say(byte[] text);

    /// <param name="frame">With its header; shared with other receivers, and never changed.</param>
    /// <returns>False when it was dropped, and a key frame is needed to go on.</returns>
    bool Take(Track track, byte[] frame, bool isKey);

    /// <summary>From here on the track starts with a key frame.</summary>
    void AwaitKey(ushort track);

    /// <summary>Drops what waits of tracks that have ended, since their numbers may be given anew.</summary>
    void Forget(IReadOnlyCollection<ushort> tracks);

    /// <summary>Passes on what has gathered. Never waits.</summary>
    void Flush();

    /// <summary>Once a second. True when it turned out just now that it carries less than thought.</summary>
    bool Mark();

    /// <summary>The seat has a newer one, is gone, or the sitting is over.</summary>
    void End();
}
