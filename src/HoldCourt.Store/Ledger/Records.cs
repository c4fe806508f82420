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
}
