namespace HoldCourt.Store.Recording;

/// <summary>A recording of a sitting. Its tracks and films lie in the data folder, under the sitting's id and its number.</summary>
public sealed class RecordingRecord
{
    /// <summary>In UTF-16 units.</summary>
    public const int LongestName = 120, LongestShelf = 60;

    public Guid Id { get; init; }
    public Guid SittingId { get; init; }

    /// <summary>1 for the first of the sitting.</summary>
    public int Number { get; init; }
    public required string Name { get; set; }

    /// <summary>The folder of the library that it stands in; empty for none.</summary>
    public string Shelf { get; set; } = "";
    public long StartedAt { get; init; }

    /// <summary>Null while it is being made.</summary>
    public long? EndedAt { get; set; }

    /// <summary>In milliseconds, pauses left out.</summary>
    public long Length { get; set; }

    /// <summary>Of its tracks, in bytes.</summary>
    public long Size { get; set; }
    public Watchers Watchers { get; set; }

    /// <summary>Numbers of the seats of which what was recorded has been taken out, with commas between.</summary>
    public string Erased { get; set; } = "";

    /// <summary>Since when it is in the wastebasket; null while it is not.</summary>
    public long? DeletedAt { get; set; }
}

public enum FilmState { Waiting, Composing, Ready, Failed, Cancelled }

/// <summary>A film composed of a recording, or cut from another one.</summary>
public sealed class FilmRecord
{
    public Guid Id { get; init; }
    public Guid RecordingId { get; init; }
    public RecordingRecord? Recording { get; init; }
    /// <summary>Null for the one that was chosen while it ran.</summary>
    public Framing? Framing { get; init; }
    public bool Names { get; init; }
    public bool Questions { get; init; }

    /// <summary>What is left out of the recording, as JSON of passages in its time; empty for nothing.</summary>
    public string Cuts { get; init; } = "";
    public FilmState State { get; set; }

    /// <summary>Name of the reason why it failed.</summary>
    public string? Flaw { get; set; }
    public long AskedAt { get; init; }
    public long? MadeAt { get; set; }

    /// <summary>In milliseconds.</summary>
    public long Length { get; set; }

    /// <summary>In bytes.</summary>
    public long Size { get; set; }
}

/// <summary>What a line of a recording's transcript says in place of its own words, which stand in the entries.</summary>
public sealed class CorrectedLine
{
    public Guid RecordingId { get; init; }

    /// <summary>Number of the caption in its sitting.</summary>
    public int Line { get; init; }

    /// <summary>Empty where the line is taken out.</summary>
    public required string Text { get; set; }
    public long At { get; set; }
}

/// <summary>A link by which somebody without an account may see a recording.</summary>
public sealed class RecordingLink
{
    public Guid Id { get; init; }
    public Guid RecordingId { get; init; }

    /// <summary>SHA-256 of its secret, which stands nowhere.</summary>
    public required byte[] SecretHash { get; init; }

    /// <summary>As identity hashes passwords; null without one.</summary>
    public string? PasscodeHash { get; init; }
    public long MadeAt { get; init; }

    /// <summary>Null for no end.</summary>
    public long? EndsAt { get; init; }
}
