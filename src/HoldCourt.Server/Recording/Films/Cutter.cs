using System.Collections.Immutable;
using System.Text.Json;

namespace HoldCourt.Server.Recording.Films;

/// <summary>
/// Leaves parts of a film out without coding anything anew: what is kept begins at a key frame, so that a part ends up to a second sooner
/// or later than was wished; it may begin anywhere.
/// </summary>
internal static class Cutter
{
    /// <summary>Where what is kept may begin, in milliseconds; a sound may begin anywhere.</summary>
    public static IReadOnlyList<long> KeysOf(string film)
    {
        using var reader = new WebmReader(film);
        var picture = reader.Tracks.ToList().FindIndex(track => !track.IsSound) + 1;
        return [.. reader.Blocks().Where(block => (picture == 0 || block.Track == picture) && block.IsKey).Select(block => block.At)];
    }

    /// <summary>The parts as they can be left out: apart, in order, and each up to the nearest key frame or the end.</summary>
    /// <param name="length">Of the film, in milliseconds.</param>
    public static ImmutableArray<Passage> Snap(IReadOnlyList<long> keys, IEnumerable<Passage> parts, long length)
    {
        var snapped = Joined(parts).Select(part => (From: Math.Min((long)part.From.TotalMilliseconds, length),
            To: part.To.TotalMilliseconds >= length ? length : Nearest(keys, (long)part.To.TotalMilliseconds, length)));
        return Joined(snapped.Where(part => part.From < part.To)
            .Select(part => new Passage(TimeSpan.FromMilliseconds(part.From), TimeSpan.FromMilliseconds(part.To))));
    }

    /// <summary>In order; those that overlap or meet become one.</summary>
    private static ImmutableArray<Passage> Joined(IEnumerable<Passage> parts)
    {
        var joined = ImmutableArray.CreateBuilder<Passage>();
        foreach (var part in parts.OrderBy(part => part.From))
            if (joined.Count > 0 && part.From <= joined[^1].To)
            {
                if (part.To > joined[^1].To) joined[^1] = joined[^1] with { To = part.To };
            }
            else joined.Add(part);
        return joined.ToImmutable();
    }

    private static long Nearest(IReadOnlyList<long> keys, long at, long length) =>
        keys.Append(length).MinBy(key => Math.Abs(key - at));

    /// <summary>Writes what is left, with its own chapters; whole or not at all.</summary>
    /// <param name="parts">As <see cref="Snap"/> gave them.</param>
    /// <param name="to">Folder of the new film.</param>
    public static FilmMade Cut(string film, string to, ImmutableArray<Passage> parts, long length, IReadOnlyList<WebmChapter> chapters)
    {
        Directory.CreateDirectory(to);
        var path = Path.Combine(to, Composer.FilmName);
        var partial = $"{path}.part";
        using (var reader = new WebmReader(film))
        using (var writer = new WebmWriter(partial, reader.Tracks))
        {
            foreach (var block in reader.Blocks())
                if (PlaceOf(parts, block.At) is { } at) writer.Write(block.Track, at, block.Frame, block.IsKey);
            writer.Finish(chapters);
        }
        File.Move(partial, path, overwrite: true);
        var before = Path.GetDirectoryName(film)!;
        if (File.Exists(Path.Combine(before, Composer.PosterName)))
            File.Copy(Path.Combine(before, Composer.PosterName), Path.Combine(to, Composer.PosterName), overwrite: true);
        var peaks = FilmWorks.MadeOf(before)?.Peaks ?? [];
        var made = new FilmMade(length - (long)parts.Sum(part => part.Length.TotalMilliseconds),
            [.. peaks.Where((_, tenth) => PlaceOf(parts, tenth * 100) is not null)]);
        File.WriteAllText(Path.Combine(to, Composer.MadeName), JsonSerializer.Serialize(made, CoreJson.Options));
        return made;
    }

    /// <summary>When something comes in what is left; null when it is left out.</summary>
    private static long? PlaceOf(ImmutableArray<Passage> parts, long at)
    {
        var gone = 0L;
        foreach (var part in parts)
        {
            if (at < part.From.TotalMilliseconds) break;
            if (at < part.To.TotalMilliseconds) return null;
            gone += (long)part.Length.TotalMilliseconds;
        }
        return at - gone;
    }
}
