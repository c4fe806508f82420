using System.Collections;
using System.Diagnostics.CodeAnalysis;

namespace HoldCourt.Core.Sittings;

/// <summary>
/// All seats of a sitting by number, immutable. Seats stand in chunks of 32 that versions share, so that one change
/// copies one chunk, and the seats that differ between two versions are found by comparing references of chunks.
/// </summary>
public sealed class Roll : IEnumerable<Seat>
{
    private const int ChunkSize = 32;
    private readonly Seat[][] _chunks;

    private Roll(Seat[][] chunks, int count)
    {
        _chunks = chunks;
        Count = count;
    }

    public static Roll Empty { get; } = new([], 0);

    /// <param name="seats">Numbered 1, 2, 3 … in this order.</param>
    public static Roll Of(IReadOnlyCollection<Seat> seats) => new([.. seats.Chunk(ChunkSize)], seats.Count);

    public int Count { get; }

    /// <summary>The number the next newcomer gets.</summary>
    public SeatId Next => new(Count + 1);

    /// <exception cref="KeyNotFoundException">No such seat; use <see cref="TryGet"/> for numbers from outside.</exception>
    public Seat this[SeatId id] => TryGet(id, out var seat) ? seat : throw new KeyNotFoundException($"No seat {id.Number}.");

    public bool TryGet(SeatId id, [MaybeNullWhen(false)] out Seat seat)
    {
        var index = id.Number - 1;
        if (index < 0 || index >= Count)
        {
            seat = null;
            return false;
        }
        seat = _chunks[index / ChunkSize][index % ChunkSize];
        return true;
    }

    /// <summary>Replaces a seat, or adds the one numbered <see cref="Next"/>.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The number would leave a gap.</exception>
    public Roll With(Seat seat)
    {
        var index = seat.Id.Number - 1;
        ArgumentOutOfRangeException.ThrowIfGreaterThan(index, Count, nameof(seat));
        var chunk = index / ChunkSize;
        var adds = index == Count;
        var chunks = new Seat[adds && index % ChunkSize == 0 ? _chunks.Length + 1 : _chunks.Length][];
        Array.Copy(_chunks, chunks, _chunks.Length);
        var length = adds ? (index % ChunkSize) + 1 : chunks[chunk].Length;
        var copy = new Seat[length];
        if (chunks[chunk] is { } old) Array.Copy(old, copy, old.Length);
        copy[index % ChunkSize] = seat;
        chunks[chunk] = copy;
        return new Roll(chunks, adds ? Count + 1 : Count);
    }

    /// <summary>Changes many seats at once; each chunk is copied once at most.</summary>
    /// <exception cref="KeyNotFoundException">No such seat.</exception>
    public Roll WithEach(IEnumerable<SeatId> ids, Func<Seat, Seat> change)
    {
        Seat[][]? chunks = null;
        foreach (var id in ids)
        {
            if (!TryGet(id, out _)) throw new KeyNotFoundException($"No seat {id.Number}.");
            var index = id.Number - 1;
            chunks ??= [.. _chunks];
            var chunk = index / ChunkSize;
            if (ReferenceEquals(chunks[chunk], _chunks[chunk])) chunks[chunk] = [.. _chunks[chunk]];
            chunks[chunk][index % ChunkSize] = change(chunks[chunk][index % ChunkSize]);
        }
        return chunks is null ? this : new Roll(chunks, Count);
    }

    /// <summary>The seats of this version that are not the same objects in an earlier one, with what they were there.</summary>
    public IEnumerable<(Seat? Before, Seat After)> ChangedSince(Roll earlier)
    {
        for (var chunk = 0; chunk < _chunks.Length; chunk++)
        {
            var now = _chunks[chunk];
            var was = chunk < earlier._chunks.Length ? earlier._chunks[chunk] : null;
            if (ReferenceEquals(now, was)) continue;
            for (var i = 0; i < now.Length; i++)
            {
                var before = was is not null && i < was.Length ? was[i] : null;
                if (!ReferenceEquals(now[i], before)) yield return (before, now[i]);
            }
        }
    }

    public IEnumerator<Seat> GetEnumerator()
    {
        foreach (var chunk in _chunks)
            foreach (var seat in chunk)
                yield return seat;
    }

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();
}
