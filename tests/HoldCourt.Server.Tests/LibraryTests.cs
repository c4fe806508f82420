using System.Net;
using System.Net.Http.Headers;
using HoldCourt.Server.Api;
using HoldCourt.Server.Recording;
using HoldCourt.Store;
using HoldCourt.Store.Recording;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Server.Tests;

/// <summary>Recordings afterwards: who may see them and who never, and what their keepers do with them.</summary>
public sealed class LibraryTests(Court court) : IClassFixture<Court>
{
    private static async Task<RecordingPage> Ready(Visitor host, Guid recording)
    {
        RecordingPage? page = null;
        await Eventually.Succeeds(async () =>
        {
            page = await host.Get<RecordingPage>($"/api/recordings/{recording}");
            page.Recording.Films.ShouldNotBeEmpty();
            page.Recording.Films.ShouldAllBe(film => film.State == FilmState.Ready);
        }, seconds: 60);
        return page!;
    }

    private static async Task<(RecordedRoom Room, Guid Recording)> Recorded(Court house)
    {
        var room = await RecordedRoom.Inside(house);
        await room.Host.Done(new StartRecording());
        await room.GoOn(100);
        await room.Host.Done(new StopRecording());
        return (room, (await RecordedRoom.Ended(house, room.Sitting)).Id);
    }

    private static string FilmOf(RecordingPage page) => $"/api/recordings/{page.Recording.Id}/films/{page.Film}/film.webm";

    [Fact]
    public async Task A_film_comes_by_itself_with_a_letter_and_is_played_in_pieces()
    {
        var (room, recording) = await Recorded(court);
        await using var closed = room;
        var page = await Ready(room.Visitor, recording);
        page.Recording.Length.ShouldBeInRange(1_500, 8_000);
        page.Recording.Films[0].Length.ShouldBe(page.Recording.Length);
        page.Chapters[0].At.ShouldBe(0);
        page.Tracks.Select(track => track.Name).ShouldBe(["Odalys", "Guest"]);
        using var piece = await room.Visitor.Get(FilmOf(page), new RangeHeaderValue(100, 199));
        piece.StatusCode.ShouldBe(HttpStatusCode.PartialContent);
        (await piece.Content.ReadAsByteArrayAsync()).Length.ShouldBe(100);
        piece.Content.Headers.ContentType!.MediaType.ShouldBe("video/webm");
        (await room.Visitor.Get<List<OutboxRow>>("/api/outbox"))
            .ShouldContain(row => row.Subject.Contains("The film is ready", StringComparison.Ordinal));
        using var zip = new System.IO.Compression.ZipArchive(
            await (await room.Visitor.Get($"/api/recordings/{recording}/tracks.zip")).Content.ReadAsStreamAsync());
        zip.Entries.Count.ShouldBe(4);
        // In another framing, and without a second of it.
        await room.Visitor.Does(HttpMethod.Post, $"/api/recordings/{recording}/films",
            new FilmWish(Framing.Even, Names: false, Questions: false, [new CutRow(0, 1_000)]));
        page = await Ready(room.Visitor, recording);
        page.Recording.Films.Length.ShouldBe(2);
        page.Recording.Films[1].Length.ShouldBe(page.Recording.Length - 1_000);
        // At once, at key frames; where it would leave nothing it says so.
        var cut = await room.Visitor.Post<FilmCutMade>($"/api/recordings/{recording}/films/{page.Film}/cut",
            new FilmCut([new CutRow(0, 400)], Looks: true));
        cut.Film.ShouldBeNull();
        (await room.Visitor.Refused(HttpMethod.Post, $"/api/recordings/{recording}/films/{page.Film}/cut",
            new FilmCut([new CutRow(0, 1_000_000)]))).ShouldBe("nothingLeft");
        cut = await room.Visitor.Post<FilmCutMade>($"/api/recordings/{recording}/films/{page.Film}/cut",
            new FilmCut([new CutRow(page.Recording.Length - 700, page.Recording.Length)]));
        (await room.Visitor.Get<RecordingPage>($"/api/recordings/{recording}?film={cut.Film}")).ShouldSatisfyAllConditions(
            seen => seen.Film.ShouldBe(cut.Film), seen => seen.Stretches.Sum(one => one.To.Milliseconds - one.From.Milliseconds)
                .ShouldBe(page.Recording.Length - 700));
        foreach (var odd in new[] { new CutRow(-1, 5), new CutRow(5, 5), new CutRow(0, long.MaxValue) })
        {
            (await room.Visitor.Refused(HttpMethod.Post, $"/api/recordings/{recording}/films", new FilmWish(null, true, true, [odd])))
                .ShouldBe("notUnderstood");
            (await room.Visitor.Refused(HttpMethod.Post, $"/api/recordings/{recording}/films/{page.Film}/cut", new FilmCut([odd])))
                .ShouldBe("notUnderstood");
        }
        // What was recorded of somebody goes, and the films are made anew.
        await room.Visitor.Does(HttpMethod.Delete, $"/api/recordings/{recording}/people/{room.Guest.Me!.Seat.Number}");
        await Eventually.Succeeds(async () =>
            (await Ready(room.Visitor, recording)).Tracks.Select(track => track.Name).ShouldBe(["Odalys"]));
        RecordingFolder.Of(court.Folder, room.Sitting, 1).AllTracks().ShouldAllBe(track => track.Seat == room.Host.Me!.Seat);
    }

    [Fact]
    public async Task Nobody_sees_a_recording_who_was_not_there_was_put_out_or_only_waited_and_nobody_but_its_keepers_changes_it()
    {
        var (room, recording) = await Recorded(court);
        await using var closed = room;
        var page = await Ready(room.Visitor, recording);
        var waiting = court.Visitor();
        await using var lobby = await waiting.Announces(room.Opened, "Waits");
        var (nobody, other, turnedAway) = (court.Visitor(), await court.AnotherHost("ansel@larkmoor.example.org"), court.Visitor());
        await using (var declined = await turnedAway.Announces(room.Opened, "Turned away"))
            await room.Host.Done(new Decline([declined.Me!.Seat], null));
        async Task Sees(Visitor visitor, bool sees, string why)
        {
            foreach (var path in new[] { $"/api/recordings/{recording}", FilmOf(page) })
                (await visitor.Get(path)).StatusCode.ShouldBe(sees ? HttpStatusCode.OK : HttpStatusCode.NotFound, $"{why}: {path}");
        }
        foreach (var (visitor, why) in new[]
            { (nobody, "nobody"), (waiting, "waits"), (other, "another host"), (room.GuestVisitor, "for the bench alone") })
            await Sees(visitor, sees: false, why);
        await room.Visitor.Does(HttpMethod.Put, $"/api/recordings/{recording}", new RecordingWish("Ours", "Spring", Watchers.Present));
        await Sees(room.GuestVisitor, sees: true, "was there");
        foreach (var (visitor, why) in new[]
            { (nobody, "nobody"), (waiting, "waits"), (turnedAway, "declined"), (other, "another host") })
            await Sees(visitor, sees: false, why);
        // The papers go with it, for those who were there, and are others' no more than before.
        await room.Visitor.SendFile(HttpMethod.Post, $"/api/plans/{page.Recording.Session}/papers/Map.txt", "Upper reach"u8.ToArray());
        var paper = (await room.GuestVisitor.Get<List<PaperRow>>($"/api/recordings/{recording}/papers")).ShouldHaveSingleItem();
        (await room.GuestVisitor.Get($"/api/recordings/{recording}/papers/{paper.Id}")).StatusCode.ShouldBe(HttpStatusCode.OK);
        foreach (var visitor in new[] { nobody, waiting, other })
            foreach (var path in new[] { "papers", $"papers/{paper.Id}" })
                (await visitor.Get($"/api/recordings/{recording}/{path}")).StatusCode.ShouldBe(HttpStatusCode.NotFound, path);
        (await room.GuestVisitor.Get<RecordingPage>($"/api/recordings/{recording}")).ShouldSatisfyAllConditions(
            seen => seen.Keeps.ShouldBeFalse(), seen => seen.Consents.ShouldBeEmpty(), seen => seen.Links.ShouldBeEmpty(),
            seen => seen.Tracks.ShouldBeEmpty(), seen => seen.Recording.Shelf.ShouldBeEmpty());
        foreach (var (visitor, kept) in new[] { (room.GuestVisitor, "signInNeeded"), (nobody, "signInNeeded"), (other, "noSuchRecording") })
            foreach (var (method, path, body) in new (HttpMethod, string, object?)[]
            {
                (HttpMethod.Put, "", new RecordingWish("Mine", "", Watchers.Invited)), (HttpMethod.Delete, "", null),
                (HttpMethod.Delete, "/for-good", null), (HttpMethod.Post, "/back", null),
                (HttpMethod.Post, "/films", new FilmWish(Framing.Even, true, true)), (HttpMethod.Delete, $"/films/{page.Film}", null),
                (HttpMethod.Post, $"/films/{page.Film}/again", null), (HttpMethod.Post, $"/films/{page.Film}/cancel", null),
                (HttpMethod.Delete, "/people/1", null), (HttpMethod.Post, "/links", new LinkWish(1, null)),
                (HttpMethod.Get, "/tracks.zip", null)
            })
                (await visitor.Refused(method, $"/api/recordings/{recording}{path}", body)).ShouldBe(kept, path);
        (await other.Get<List<RecordingRow>>("/api/recordings")).ShouldBeEmpty();
        (await room.Visitor.Get<List<RecordingRow>>("/api/recordings")).Single(row => row.Id == recording).Name.ShouldBe("Ours");
        var session = (await room.Visitor.Get<RecordingPage>($"/api/recordings/{recording}")).Recording;
        await room.Host.Done(new Remove([room.Guest.Me!.Seat], MayReturn: true));
        await Sees(room.GuestVisitor, sees: false, "was put out");
        // Once people come for visits, what one says is for the bench alone, whatever was said before.
        await room.Host.Done(new Admit([lobby.Me!.Seat]));
        await Sees(waiting, sees: true, "let in");
        await room.Host.Done(new Expect(new DocketLine("Somebody", Slot: session.StartedAt)));
        await Sees(waiting, sees: false, "visits stay apart");
        (await room.Visitor.Refused(HttpMethod.Put, $"/api/recordings/{recording}", new RecordingWish("Ours", "", Watchers.Invited)))
            .ShouldBe("visitsStayApart");
        foreach (var odd in new[] { "..%2fmade.json", "made.json", "job.json", "sound.webm", "%2e%2e" })
            (await room.Visitor.Get($"/api/recordings/{recording}/films/{page.Film}/{odd}")).StatusCode
                .ShouldBe(HttpStatusCode.NotFound, odd);
    }

    /// <summary>Seen: the old film was served once more while another was made, and stayed for ever when that was cancelled.</summary>
    [Fact]
    public async Task A_film_with_somebody_who_was_taken_out_goes_at_once_and_stays_gone_when_the_next_is_cancelled()
    {
        var (room, recording) = await Recorded(court);
        await using var closed = room;
        var page = await Ready(room.Visitor, recording);
        var films = Path.Combine(RecordingFolder.Of(court.Folder, room.Sitting, 1).Path, "films");
        var before = Directory.GetFiles(films, "*", SearchOption.AllDirectories)
            .ToDictionary(path => path, path => new FileInfo(path).Length);
        before.Keys.ShouldContain(path => path.EndsWith("film.webm", StringComparison.Ordinal));
        await room.Visitor.Does(HttpMethod.Delete, $"/api/recordings/{recording}/people/{room.Guest.Me!.Seat.Number}");
        await Eventually.Holds(() => !before.Keys.Any(path => File.Exists(path) && File.GetLastWriteTimeUtc(path)
            < DateTime.UtcNow.AddSeconds(-60)) && Directory.EnumerateFiles(RecordingFolder.Of(court.Folder, room.Sitting, 1).Path, "*",
            SearchOption.AllDirectories).All(path => !before.TryGetValue(path, out var size) || new FileInfo(path).Length != size
                || !path.EndsWith(".webm", StringComparison.Ordinal)), seconds: 20);
        await room.Visitor.Post($"/api/recordings/{recording}/films/{page.Film}/cancel");
        using var film = await room.Visitor.Get(FilmOf(page));
        if (film.StatusCode == HttpStatusCode.OK)
            (await film.Content.ReadAsByteArrayAsync()).Length.ShouldNotBe((int)page.Recording.Films[0].Size, "another, without them");
        else film.StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    /// <summary>Seen: whoever had been removed, declined, or only waited saw what was for everybody invited.</summary>
    [Fact]
    public async Task What_is_for_everybody_invited_is_not_for_whoever_was_put_out_or_only_waited()
    {
        var (room, recording) = await Recorded(court);
        await using var closed = room;
        await Ready(room.Visitor, recording);
        await room.Visitor.Does(HttpMethod.Put, $"/api/recordings/{recording}", new RecordingWish("Invited", "", Watchers.Invited));
        async Task<(Visitor Who, string Token)> Invited(string name)
        {
            var link = (await room.Visitor.Post<CalledIn>($"/api/door/{room.Opened.Link}/call-in",
                new CallIn(name, $"{name}@larkmoor.example.org", Role.Attendee))).Link.Split('#')[1];
            var who = court.Visitor();
            await who.Post<DoorPage>($"/api/door/{room.Opened.Link}/invitation", new ShownLink(link));
            return (who, link);
        }
        async Task<bool> Sees(Visitor who) => (await who.Get($"/api/recordings/{recording}")).StatusCode == HttpStatusCode.OK;

        var (away, _) = await Invited("away");
        (await Sees(away)).ShouldBeTrue("invited, and could not come");
        foreach (var (name, putOut) in new (string, Func<SeatId, SeatCommand>?)[]
        {
            ("waits", null), ("declined", seat => new Decline([seat])), ("removed", seat => new Remove([seat], MayReturn: true)),
            ("forgood", seat => new Remove([seat], MayReturn: false))
        })
        {
            var (who, token) = await Invited(name);
            await using var live = await who.Announces(room.Opened, name);
            (await Sees(who)).ShouldBeFalse($"{name} waits");
            if (putOut is not null && name != "declined")
            {
                await room.Host.Done(new Admit([live.Me!.Seat]));
                (await Sees(who)).ShouldBeTrue($"{name} is inside");
            }
            if (putOut is not null) await room.Host.Done(putOut(live.Me!.Seat));
            (await Sees(who)).ShouldBe(false, name);
            var other = court.Visitor();
            (await other.Post<DoorPage>($"/api/door/{room.Opened.Link}/invitation", new ShownLink(token))).ShouldNotBeNull();
            (await Sees(other)).ShouldBeFalse($"{name}, in another browser by the same link");
            (await other.Get($"/api/recordings/{recording}?me={token}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        }
    }

    [Fact]
    public async Task A_link_opens_it_with_its_passcode_until_it_ends_is_taken_back_or_the_recording_goes()
    {
        var house = await Court.With("--Demo:Load", "true");
        await using var ends = new Ends(house);
        var (room, recording) = await Recorded(house);
        await using var closed = room;
        var page = await Ready(room.Visitor, recording);
        async Task<string> Link(int? days, string? passcode) => (await room.Visitor.Post<MadeLink>(
            $"/api/recordings/{recording}/links", new LinkWish(days, passcode))).Link.Split('#')[1];
        async Task<bool> Sees(Visitor visitor) => (await visitor.Get(FilmOf(page))).StatusCode == HttpStatusCode.OK;

        var secret = await Link(days: 2, "heron");
        var visitor = house.Visitor();
        (await visitor.Refused(HttpMethod.Post, "/api/shared", new OpenLink("AAAAAAAAAAAAAAAAAAAAAA"))).ShouldBe("noSuchLink");
        (await visitor.Post<OpenedLink>("/api/shared", new OpenLink(secret))).ShouldBe(new OpenedLink(null, NeedsPasscode: true));
        (await visitor.Refused(HttpMethod.Post, "/api/shared", new OpenLink(secret, "herons"))).ShouldBe("wrongPasscode");
        (await Sees(visitor)).ShouldBeFalse();
        (await visitor.Post<OpenedLink>("/api/shared", new OpenLink(secret, "heron"))).Recording.ShouldBe(recording);
        (await Sees(visitor)).ShouldBeTrue();
        (await visitor.Get($"/api/recordings/{recording}/papers")).StatusCode
            .ShouldBe(HttpStatusCode.NotFound, "a link to the film is none to the papers");
        // Guessing is slowed down, and shuts out nobody else behind the same address.
        var (guesses, guesser) = (new List<string>(), house.Visitor());
        for (var n = 0; n < 12; n++)
            guesses.Add(await guesser.Refused(HttpMethod.Post, "/api/shared", new OpenLink(secret, $"guess {n}")));
        guesses.ShouldContain("tooManyTries");
        (await house.Visitor().Post<OpenedLink>("/api/shared", new OpenLink(secret, "heron"))).Recording.ShouldBe(recording);
        // It is another's recording that another's cookie opens.
        var (otherRoom, otherRecording) = await Recorded(house);
        await using (otherRoom)
            (await visitor.Get($"/api/recordings/{otherRecording}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);

        house.Time.Forward(TimeSpan.FromDays(2.1));
        (await Sees(visitor)).ShouldBeFalse("it has ended");
        var late = house.Visitor();
        (await late.Refused(HttpMethod.Post, "/api/shared", new OpenLink(secret, "heron"))).ShouldBe("noSuchLink");

        secret = await Link(days: null, null);
        (await late.Post<OpenedLink>("/api/shared", new OpenLink(secret))).Recording.ShouldBe(recording);
        (await Sees(late)).ShouldBeTrue();
        var link = (await room.Visitor.Get<RecordingPage>($"/api/recordings/{recording}")).Links[^1].Id;
        await room.Visitor.Does(HttpMethod.Delete, $"/api/recordings/{recording}/links/{link}");
        (await Sees(late)).ShouldBeFalse("taken back");
        secret = await Link(days: null, null);
        (await late.Post<OpenedLink>("/api/shared", new OpenLink(secret))).Recording.ShouldBe(recording);
        await room.Visitor.Does(HttpMethod.Delete, $"/api/recordings/{recording}");
        (await Sees(late)).ShouldBeFalse("in the wastebasket");
        (await late.Refused(HttpMethod.Post, "/api/shared", new OpenLink(secret))).ShouldBe("noSuchLink");
        await room.Visitor.Does(HttpMethod.Post, $"/api/recordings/{recording}/back");
        (await Sees(late)).ShouldBeTrue();
        await room.Visitor.Does(HttpMethod.Delete, $"/api/recordings/{recording}");
        await using (var scope = house.Services.CreateAsyncScope())
        {
            house.Time.Forward(TimeSpan.FromDays(31));
            await house.Services.GetRequiredService<Library>().Tidy();
            await using var db = await house.Services.GetRequiredService<IDbContextFactory<CourtDb>>().CreateDbContextAsync();
            (await db.Recordings.AnyAsync(one => one.Id == recording)).ShouldBeFalse("after thirty days");
        }
        RecordingFolder.Of(house.Folder, room.Sitting, 1).Exists.ShouldBeFalse();
    }

    /// <summary>As after a kill between an entry and what follows from it: the table and the files are behind the ledger.</summary>
    [Fact]
    public async Task What_the_ledger_says_is_caught_up_with_at_the_next_start()
    {
        var house = await Court.With("--Demo:Load", "true");
        await using var ends = new Ends(house);
        var (room, recording) = await Recorded(house);
        await using (room)
        {
            await Ready(room.Visitor, recording);
            await room.Guest.Done(new AnswerRecording(RecordingAnswer.Unrecorded, Whole: true));
            await Eventually.Succeeds(async () => (await Ready(room.Visitor, recording)).Tracks.Length.ShouldBe(1));
        }
        var folder = RecordingFolder.Of(house.Folder, room.Sitting, 1);
        await house.Stop();
        File.Copy(folder.AllTracks()[0].Path, Path.Combine(folder.Tracks, TrackName.FileOf(room.Guest.Me!.Seat, Service.Voice, 1)));
        await using (var disk = new Microsoft.Data.Sqlite.SqliteConnection(
            $"Data Source={Path.Combine(house.Folder, "hold-court.db")};Pooling=False"))
        {
            await disk.OpenAsync();
            await using var command = disk.CreateCommand();
            command.CommandText = "update Recordings set Erased = '', EndedAt = null; delete from Films;";
            await command.ExecuteNonQueryAsync();
        }
        await house.InitializeAsync();
        using var host = await house.Host();
        (await Ready(host, recording)).Tracks.Select(track => track.Name).ShouldBe(["Odalys"]);
        folder.AllTracks().ShouldAllBe(track => track.Seat == room.Host.Me!.Seat);
    }

    [Fact]
    public async Task What_is_taken_out_while_a_film_is_composed_is_in_no_film_that_anybody_gets()
    {
        await using var room = await RecordedRoom.Inside(court);
        await room.Host.Done(new StartRecording());
        await room.GoOn(200);
        await room.Host.Done(new StopRecording());
        var recording = (await RecordedRoom.Ended(court, room.Sitting)).Id;
        RecordingPage? page = null;
        await Eventually.Succeeds(async () =>
        {
            page = await room.Visitor.Get<RecordingPage>($"/api/recordings/{recording}");
            page.Recording.Films.Single().State.ShouldBe(FilmState.Composing);
        });
        var film = $"/api/recordings/{recording}/films/{page!.Recording.Films[0].Id}/film.webm";
        await room.Guest.Done(new AnswerRecording(RecordingAnswer.Unrecorded, Whole: true));
        var folder = RecordingFolder.Of(court.Folder, room.Sitting, 1);
        var gone = DateTime.MaxValue;
        await Eventually.Succeeds(async () =>
        {
            var whole = folder.AllTracks().Any(track => track.Seat == room.Guest.Me!.Seat);
            if (!whole && gone == DateTime.MaxValue) gone = DateTime.UtcNow;
            using var got = await room.Visitor.Get(film);
            if (got.StatusCode == HttpStatusCode.OK)
                new FileInfo(Path.Combine(folder.Path, "films", page.Recording.Films[0].Id.ToString("N"), "film.webm")).LastWriteTimeUtc
                    .ShouldBeGreaterThan(gone, "whoever gets it gets one that was made without that person's files");
            else throw new InvalidOperationException("It is not there yet.");
        }, seconds: 60);
        folder.AllTracks().ShouldAllBe(track => track.Seat == room.Host.Me!.Seat);
    }

    [Fact]
    public async Task A_film_that_is_deleted_while_somebody_watches_it_ends_in_order()
    {
        var (room, recording) = await Recorded(court);
        await using var closed = room;
        var page = await Ready(room.Visitor, recording);
        using var watching = await room.Visitor.Get(FilmOf(page), new RangeHeaderValue(0, 5_000));
        await using var stream = await watching.Content.ReadAsStreamAsync();
        await stream.ReadExactlyAsync(new byte[1_000]);
        await room.Visitor.Does(HttpMethod.Delete, $"/api/recordings/{recording}/films/{page.Film}");
        (await stream.ReadAtLeastAsync(new byte[5_000], 4_001, throwOnEndOfStream: false)).ShouldBe(4_001);
        (await room.Visitor.Get(FilmOf(page))).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await room.Visitor.Get<RecordingPage>($"/api/recordings/{recording}")).ShouldSatisfyAllConditions(
            now => now.Film.ShouldBeNull(), now => now.Recording.Films.ShouldBeEmpty());
        // It can be had again, of what was recorded.
        await room.Visitor.Does(HttpMethod.Post, $"/api/recordings/{recording}/films", new FilmWish(null, true, true));
        (await Ready(room.Visitor, recording)).Film.ShouldNotBe(page.Film);
    }

    [Fact]
    public async Task A_clock_that_is_put_back_takes_nothing_from_a_recording()
    {
        var house = await Court.With("--Demo:Load", "true");
        await using var ends = new Ends(house);
        await using var room = await RecordedRoom.Inside(house);
        await room.Host.Done(new StartRecording());
        await room.GoOn(60);
        house.Time.Forward(TimeSpan.FromMinutes(-5));
        await room.GoOn(60);
        await room.Host.Done(new PauseRecording());
        house.Time.Forward(TimeSpan.FromMinutes(-2));
        await room.Host.Done(new ResumeRecording());
        await room.GoOn(60);
        await room.Host.Done(new StopRecording());
        var recording = await RecordedRoom.Ended(house, room.Sitting);
        recording.Length.ShouldBeInRange(2_500, 20_000);
        var page = await Ready(room.Visitor, recording.Id);
        page.Recording.Films[0].Length.ShouldBe(recording.Length);
        foreach (var track in RecordingFolder.Of(house.Folder, room.Sitting, 1).AllTracks())
        {
            using var reader = new WebmReader(track.Path);
            var times = reader.Blocks().Select(block => block.At).ToList();
            times.ShouldBe(times.Order());
        }
    }

    private sealed class Ends(Court house) : IAsyncDisposable
    {
        public async ValueTask DisposeAsync() => await house.DisposeAsync();
    }
}
