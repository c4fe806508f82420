using System.Text.Json;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Security;
using HoldCourt.Server.StandIns.Extras;
using HoldCourt.Store;
using HoldCourt.Store.Files;
using HoldCourt.Store.Ledger;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Demo;

/// <summary>
/// One sitting of the demo's assembly that was held yesterday, and recorded: what the extras would have sent is written down as if it had
/// come through the relay, and the film is composed of it as of any other.
/// </summary>
internal sealed class DemoRecording(
    IDbContextFactory<CourtDb> databases, EntryWriter writer, MarkWriter marks, Taps taps, RecordingRegister register,
    Lazy<ClipLibrary> clips, TimeProvider time)
{
    private const double Length = 150;

    /// <summary>Who speaks from when on, in seconds, and which of their sentences.</summary>
    private static readonly (double At, int Seat)[] _speaks =
    [
        (2, 1), (8, 1), (14, 2), (21, 1), (31, 3), (38, 3), (45, 3), (52, 3), (60, 3), (70, 2), (77, 5), (84, 5), (92, 3), (101, 4),
        (108, 4), (117, 1), (125, 2), (133, 4), (141, 1)
    ];

    private static readonly (string Name, Role Role)[] _people =
    [
        ("Odalys Brandt", Role.Host), ("Ilse Vantorre", Role.Deputy), ("Teodor Quill", Role.Presenter), ("Mirembe Achan", Role.Attendee),
        ("Kwabena Osei", Role.Attendee), ("Pilar Mestre", Role.Attendee)
    ];

    /// <summary>Makes it, unless the demo's assembly has been held before.</summary>
    public async Task Make(CancellationToken cancel)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        if (await db.Sessions.Include(one => one.Sittings).FirstOrDefaultAsync(one => one.Extras == "assembly", cancel)
            is not { Sittings: [] } session) return;
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        var start = new Instant(now - (now % 3_600_000) - 86_400_000);
        var id = Guid.NewGuid();
        var (entries, sitting) = Held(session, start, clips.Value);
        db.Add(new SittingRecord
        {
            Id = id,
            SessionId = session.Id,
            OpenedAt = start.Milliseconds,
            AdjournedAt = sitting.AdjournedAt!.Value.Milliseconds
        });
        await db.SaveChangesAsync(cancel);
        await writer.Append(id, Kept(entries));
        await Draw(id, start);
        await Task.Run(() => WriteTracks(taps.FolderOf(id, 1), start), cancel);
        register.Follow(id, sitting);
    }

    private static (List<Entry> Entries, Sitting Sitting) Held(Session session, Instant start, ClipLibrary library)
    {
        var (sitting, entries) = (Sitting.Empty, new List<Entry>());
        void Do(double second, Actor by, Command command)
        {
            var at = start + TimeSpan.FromSeconds(second);
            var decision = SittingRules.Decide(sitting, command, by, at);
            if (decision.Refusal is { } refusal) throw new InvalidOperationException($"The demo's {command}: {refusal.Reason}.");
            (var made, sitting) = SittingRules.Record(sitting, decision.Facts, by, at);
            entries.AddRange(made);
        }
        static Actor By(int seat) => Actor.Of(new SeatId(seat));

        var owner = SeatCookies.KeyOf(session.OwnerId);
        Do(-90, Actor.House, new Open(session.Title, owner, new Door(DoorMode.Open), StandingOrders.Usual, []));
        for (var at = 0; at < _people.Length; at++)
        {
            var (name, role) = _people[at];
            var seat = at + 1;
            Do(-60, Actor.House, new Announce(at == 0 ? owner : new PersonKey($"guest:demo-{seat}"), name, Owns: at == 0));
            if (role is Role.Deputy or Role.Presenter) Do(-50, By(1), new GiveRole([new SeatId(seat)], role));
            Do(-40, By(seat), new TurnCamera(true));
            Do(-40, By(seat), new OpenMicrophone());
        }
        Do(-30, By(1), new SetRunSheet(
        [
            new Item(1, "Welcome and apologies", 5), new Item(2, "Reports from the streams", 20), new Item(3, "The year’s priorities", 15)
        ]));
        Do(-25, By(1), new NameCaptioner(new SeatId(4)));
        Do(-20, By(1), new SetRecordingRules(RecordingRules.Usual with { Watchers = Watchers.Present }));
        List<(double At, Actor By, Command Wish)> steps =
        [
            (0, By(1), new StartRecording()),
            (1, By(1), new NextItem()),
            (28, By(1), new NextItem()),
            (30, By(1), new GiveFloor(new SeatId(3))),
            (34, By(3), new OpenScreen("Gauge readings")),
            (36, By(3), new ShowExhibit(1)),
            (66, By(3), new TakeDown(1)),
            (68, By(1), new TakeFloor()),
            (76, By(5), new Write(new Recipient(Reach.Everyone), "Which weeks is the weir closed for the repair?", Question: true)),
            (78, By(1), new PutUp(1)),
            (92, By(1), new PutUp(null)),
            (98, By(1), new NextItem()),
            (100, By(2), new OpenSheet("Priorities", Ruling.Squared)),
            (100, By(2), new ShowExhibit(2)),
            (Length - 2, By(1), new StopRecording()),
            (Length, By(1), new Adjourn())
        ];
        steps.AddRange(Enumerable.Range(2, 5).Select(seat => (1.0, By(seat), (Command)new AnswerRecording(RecordingAnswer.Agreed))));
        // Each line comes when the sentence has been said, a moment late.
        foreach (var (at, seat, clip) in Sentences(library))
            steps.Add((at + (clip.Packets.Count / 50.0) + 0.5, By(4),
                new WriteCaption(clip.Words, new SeatId(seat), (clip.Packets.Count * 20) + 500)));
        foreach (var (at, by, wish) in steps.OrderBy(step => step.At)) Do(at, by, wish);
        return (entries, sitting);
    }

    /// <summary>Each of their sentences in turn.</summary>
    private static IEnumerable<(double At, int Seat, VoiceClip Clip)> Sentences(ClipLibrary library)
    {
        var number = new Dictionary<int, int>();
        foreach (var (at, seat) in _speaks)
        {
            var sentences = library.Voices[(seat - 1) % library.Voices.Count];
            number[seat] = number.GetValueOrDefault(seat, -1) + 1;
            yield return (at, seat, sentences[number[seat] % sentences.Count]);
        }
    }

    private static List<KeptEntry> Kept(List<Entry> entries)
    {
        var (kept, digest, state) = (new List<KeptEntry>(), Chain.Start, Sitting.Empty);
        foreach (var entry in entries)
        {
            state = SittingRules.Evolve(state, entry);
            kept.Add(Chain.Link(digest, entry, Marks.Of(entry, state)));
            digest = kept[^1].Digest;
        }
        return kept;
    }

    private async Task Draw(Guid sitting, Instant start)
    {
        var layer = MarkLayer.Empty;
        foreach (var (second, wish) in new (double, Draw)[]
        {
            (106, new Draw(1, MarkShape.Text, MarkColour.Blue, 60, "gJgBgDI", "1  Weir repair")),
            (114, new Draw(1, MarkShape.Text, MarkColour.Blue, 60, "gJgBgGQ", "2  Culvert at Mill Lane")),
            (122, new Draw(1, MarkShape.Arrow, MarkColour.Vermilion, 56, "gKABgDz_G4A2"))
        })
        {
            var (act, refusal) = layer.Decide(wish, new SeatId(2), keeps: true, pages: 1, start + TimeSpan.FromSeconds(second));
            if (act is null) throw new InvalidOperationException($"The demo's marks: {refusal!.Reason}.");
            layer = layer.After(act);
            await marks.Append(new MarkRecord
            {
                SittingId = sitting,
                Exhibit = 2,
                Sequence = act.Sequence,
                Json = JsonSerializer.Serialize(act, CoreJson.Options)
            });
        }
    }

    private void WriteTracks(RecordingFolder folder, Instant start)
    {
        Directory.CreateDirectory(folder.Tracks);
        var library = clips.Value;
        var spoken = new List<Spoken>();
        for (var seat = 1; seat <= _people.Length; seat++)
        {
            var talks = new List<(long From, long To)>();
            using (var voice = new WebmWriter(NameOf(folder, seat, Service.Voice, start), [WebmTrack.Sound()]))
            {
                foreach (var (second, _, sentence) in Sentences(library).Where(one => one.Seat == seat))
                {
                    var at = (long)(second * 1_000);
                    foreach (var packet in sentence.Packets)
                    {
                        voice.Write(1, at, packet, isKey: true);
                        at += 20;
                    }
                    talks.Add(((long)(second * 1_000), at));
                    spoken.Add(new Spoken(start + TimeSpan.FromSeconds(second), seat));
                    spoken.Add(new Spoken(new Instant(start.Milliseconds + at), 0));
                }
                voice.Finish();
            }
            var figure = library.Figures[(seat * 3) % library.Figures.Count];
            Picture(NameOf(folder, seat, Service.Camera, start), figure.FullListening, figure.FullTalking,
                at => talks.Exists(talk => talk.From <= at && at < talk.To), 0, Length);
        }
        Picture(NameOf(folder, 3, Service.Screen, start), library.Page, library.Page, _ => false, 36, 66);
        folder.Note(spoken.OrderBy(one => one.At).ThenBy(one => one.Seat));
    }

    private static string NameOf(RecordingFolder folder, int seat, Service service, Instant start) =>
        Path.Combine(folder.Tracks, TrackName.FileOf(new SeatId(seat), service, start.Milliseconds));

    /// <summary>Clips one after the other, each from its beginning on, which is a key frame.</summary>
    private static void Picture(string path, PictureClip listening, PictureClip talking, Func<long, bool> talks, double from, double to)
    {
        var (wide, high) = Codecs.SizeOf("V_VP8", listening.Frames[0])!.Value;
        using var writer = new WebmWriter(path, [WebmTrack.Picture("V_VP8", wide, high)]);
        var (playing, frame) = (listening, 0);
        for (var at = from * 1_000; at < to * 1_000; at += 1_000 / playing.FramesPerSecond)
        {
            var wanted = talks((long)at) ? talking : listening;
            if (wanted != playing || frame >= playing.Frames.Count) (playing, frame) = (wanted, 0);
            writer.Write(1, (long)at, playing.Frames[frame], playing.IsKey(frame));
            frame++;
        }
        writer.Finish();
    }
}
