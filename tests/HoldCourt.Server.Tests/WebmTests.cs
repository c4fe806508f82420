using System.Diagnostics;
using System.Globalization;
using HoldCourt.Server.Recording;
using HoldCourt.Server.StandIns.Extras;

namespace HoldCourt.Server.Tests;

/// <summary>Files of recorded tracks: written piece by piece, torn at any byte, mended, and read by another program.</summary>
public sealed class WebmTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("hold-court-webm-").FullName;

    private static readonly IReadOnlyList<WebmTrack> _tracks = [WebmTrack.Picture("V_VP8", 640, 360), WebmTrack.Sound()];

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    private string Path(string name) => System.IO.Path.Combine(_folder, name);

    /// <summary>A real picture and a real voice, twelve seconds, with a silence of four in the middle.</summary>
    private static List<WebmBlock> Frames()
    {
        var clips = new ClipLibrary();
        var (picture, voice) = (clips.Figures[0].ThumbTalking, clips.Voices[0][0]);
        var blocks = new List<WebmBlock>();
        for (var n = 0; n < 180; n++)
        {
            var at = n % picture.Frames.Count;
            blocks.Add(new WebmBlock(1, n * 1_000 / 15, picture.IsKey(at), picture.Frames[at]));
        }
        for (var n = 0; n < 600; n++)
            if (n is < 200 or >= 400)
                blocks.Add(new WebmBlock(2, n * 20, true, voice.Packets[n % voice.Packets.Count]));
        return [.. blocks.OrderBy(block => block.At).ThenBy(block => block.Track)];
    }

    private static void Write(string path, IEnumerable<WebmBlock> blocks, IReadOnlyList<WebmChapter>? finish)
    {
        using var writer = new WebmWriter(path, _tracks);
        foreach (var block in blocks) writer.Write(block.Track, block.At, block.Frame, block.IsKey);
        if (finish is null) writer.Flush();
        else writer.Finish(finish);
    }

    private static string Line(WebmBlock block) => $"{block.Track} {block.At} {block.IsKey} {Convert.ToHexString(block.Frame)}";

    private static (List<string> Blocks, WebmReader Reader) Read(string path)
    {
        using var reader = new WebmReader(path);
        return (reader.Blocks().Select(Line).ToList(), reader);
    }

    /// <summary>What ffprobe, which knows nothing of our code, finds: a line for each stream with its packets, and no complaint.</summary>
    private static async Task<string> Probe(string path, string shows)
    {
        using var process = Process.Start(new ProcessStartInfo("ffprobe",
            $"-v error -count_packets -of csv=p=0 -show_entries {shows} {path}")
        { RedirectStandardOutput = true, RedirectStandardError = true })!;
        var (said, complains) = (process.StandardOutput.ReadToEndAsync(), process.StandardError.ReadToEndAsync());
        await process.WaitForExitAsync();
        (await complains).ShouldBeEmpty();
        return (await said).Trim().Replace("\r", "", StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_was_written_is_read_again_by_us_and_by_others()
    {
        var frames = Frames();
        WebmChapter[] chapters = [new(0, "Welcome"), new(5_000, "Reports, from the streams")];
        Write(Path("whole.webm"), frames, chapters);
        var (blocks, reader) = Read(Path("whole.webm"));
        blocks.ShouldBe(frames.Select(Line));
        reader.Tracks.ShouldBe(_tracks);
        (reader.IsWhole, reader.Duration).ShouldBe((true, frames[^1].At));
        using (var again = new WebmReader(Path("whole.webm"))) again.Chapters().ShouldBe(chapters);
        (await Probe(Path("whole.webm"), "stream=codec_name,nb_read_packets")).Split('\n').ShouldBe(["vp8,180", "opus,400"]);
        (await Probe(Path("whole.webm"), "chapter=start_time:chapter_tags=title")).ShouldContain("5.000000");
        // A player that seeks lands on a key frame near it: the cues lead there.
        var sought = (await Probe(Path("whole.webm") + " -read_intervals 6%+#1", "packet=pts_time")).Split('\n', ',')[0];
        double.Parse(sought, CultureInfo.InvariantCulture).ShouldBeInRange(3.0, 6.1);
    }

    [Fact]
    public async Task Torn_at_any_byte_all_but_the_last_second_is_there_and_mending_it_twice_is_mending_it_once()
    {
        var frames = Frames();
        Write(Path("open.webm"), frames, null);
        Write(Path("ended.webm"), frames, []);
        var (open, ended) = (await File.ReadAllBytesAsync(Path("open.webm")), await File.ReadAllBytesAsync(Path("ended.webm")));
        // Also while it was being ended: everything but the last word, which says that it is whole.
        open.AsSpan(0, 60).CopyTo(ended);
        var random = new Random(7);
        var whole = frames.ConvertAll(Line);
        for (var n = 0; n < 120; n++)
        {
            var bytes = n % 3 == 0 ? ended : open;
            var length = n < 3 ? bytes.Length : random.Next(n % 10 == 0 ? 400 : bytes.Length);
            await File.WriteAllBytesAsync(Path("torn.webm"), bytes[..length]);
            if (!WebmReader.Repair(Path("torn.webm")))
            {
                length.ShouldBeLessThan(450, "only a file without its head is nothing");
                continue;
            }
            var mended = await File.ReadAllBytesAsync(Path("torn.webm"));
            var (blocks, reader) = Read(Path("torn.webm"));
            blocks.ShouldBe(whole.Take(blocks.Count), $"cut at {length}");
            reader.IsWhole.ShouldBeTrue();
            if (blocks.Count > 0) reader.Duration.ShouldBe(frames[..blocks.Count].Max(frame => frame.At));
            // At most one cluster, of a second, is lost.
            var written = frames.Where((_, at) => SizeUpTo(at) <= length).Select(frame => frame.At).DefaultIfEmpty(0).Max();
            (written - (blocks.Count > 0 ? frames[blocks.Count - 1].At : 0)).ShouldBeLessThanOrEqualTo(1_000, $"cut at {length}");
            WebmReader.Repair(Path("torn.webm")).ShouldBeTrue();
            (await File.ReadAllBytesAsync(Path("torn.webm"))).ShouldBe(mended);
            if (n < 12 && blocks.Count > 0)
                (await Probe(Path("torn.webm"), "stream=nb_read_packets")).Split('\n').Sum(int.Parse).ShouldBe(blocks.Count);
        }

        // At least the frames themselves must have been written.
        long SizeUpTo(int at) => 400 + frames.Take(at + 1).Sum(frame => frame.Frame.Length + 12L);
    }

    [Fact]
    public void What_is_no_such_file_is_said_to_be_none()
    {
        var random = new Random(11);
        for (var n = 0; n < 200; n++)
        {
            var bytes = new byte[random.Next(2_000)];
            random.NextBytes(bytes);
            if (n % 2 == 0) new byte[] { 0x1A, 0x45, 0xDF, 0xA3 }.AsSpan()[..Math.Min(4, bytes.Length)].CopyTo(bytes);
            File.WriteAllBytes(Path("odd.webm"), bytes);
            WebmReader.Repair(Path("odd.webm")).ShouldBeFalse();
            File.ReadAllBytes(Path("odd.webm")).ShouldBe(bytes, "what is not ours is not touched");
        }
    }
}
