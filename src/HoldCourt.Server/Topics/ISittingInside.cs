namespace HoldCourt.Server.Topics;

/// <summary>A sitting as its topics have it: on its own scheduler, and nowhere else.</summary>
internal interface ISittingInside
{
    Guid Id { get; }

    Instant Now { get; }

    /// <summary>With what is being written, and so may still be lost: what wishes are decided by.</summary>
    Sitting Latest { get; }

    /// <summary>As it is on disk, and was told: what may be shown.</summary>
    Sitting Shown { get; }

    /// <summary>An entry could not be stored: what is in memory must not go on.</summary>
    bool IsLost { get; }

    /// <summary>The line of each seat that has one.</summary>
    IReadOnlyDictionary<SeatId, string> Lines { get; }

    /// <summary>What the browser of the seat's last line calls itself, and since when that line is there.</summary>
    (string? Device, Instant Since) DeviceOf(SeatId seat);

    /// <param name="id">The wish's own id.</param>
    /// <returns>Null when it is done, and on disk.</returns>
    Task<Refusal?> Wish(Actor by, Command wish, string? id = null);

    /// <summary>What a wish would do, and let nothing happen.</summary>
    Task<ForesightRow> Foresee(SeatId by, SeatCommand wish);

    /// <summary>Once, after a while.</summary>
    void In(TopicWork topic, TimeSpan wait, Func<Task> act);
}
