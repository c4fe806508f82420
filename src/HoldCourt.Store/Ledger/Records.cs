using HoldCourt.Store.Planning;

namespace HoldCourt.Store.Ledger;

/// <summary>One run of a session. Its state is not kept here: it follows from its entries.</summary>
public sealed class SittingRecord
{
    public Guid Id { get; init; }
    public Guid SessionId { get; init; }
    public Session? Session { get; init; }
    public long OpenedAt { get; init; }
    public long? AdjournedAt { get; set; }

    /// <summary>The words of its chat were kept for their time, and are gone.</summary>
    public bool WordsErased { get; set; }
}

/// <summary>A kept entry; never changed once written, but for what is erased by <see cref="Erasure"/>.</summary>
public sealed class EntryRecord
{
    public Guid SittingId { get; init; }
    public long Sequence { get; init; }
    public required string Json { get; init; }
    public required byte[] Digest { get; init; }

    /// <summary>See <see cref="KeptEntry"/>.</summary>
    public byte[]? Seal { get; init; }

    /// <summary>What follows is to find it by (<see cref="Marks"/>). In milliseconds; 0 until it has been noted.</summary>
    public long At { get; init; }
    public int By { get; init; }

    /// <summary>Null when the ledger has no sentence about it.</summary>
    public Topic? Topic { get; init; }
    public string About { get; init; } = "";
    public bool IsOwn { get; init; }
    public int? Message { get; init; }
}

/// <summary>The state of a sitting after one of its entries; see <see cref="Snapshot"/>.</summary>
public sealed class SnapshotRecord
{
    public Guid SittingId { get; init; }
    public long Sequence { get; init; }
    public required string Form { get; init; }

    /// <summary>That of the entry.</summary>
    public required byte[] Digest { get; init; }
    public required string Json { get; init; }
}
