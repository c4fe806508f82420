using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Store.Ledger;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Server.Tests;

public class LiveTests(Court court) : IClassFixture<Court>
{
    private async Task<(OpenedSitting Opened, Live Host)> Open(string title = "Live")
    {
        var host = await court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow(title));
        return (opened, await host.Announces(opened, "Odalys"));
    }

    [Fact]
    public async Task What_the_bench_does_arrives_at_everybody_each_with_what_they_may_know()
    {
        var (opened, host) = await Open();
        var (nia, waiting) = (await court.Visitor().Announces(opened, "Nia"), await court.Visitor().Announces(opened, "Waiting"));
        await Eventually.Holds(() => host.Seats.Count == 3);
        nia.Seats.ShouldBeEmpty();
        nia.Me!.Viewer.ShouldBe(Viewer.Outside);

        await host.Done(new Admit([host.SeatOf("Nia")]));
        await Eventually.Holds(() => nia.Seats.Count == 2 && nia.Me.Viewer == Viewer.Attendee);
        nia.Seats.Values.ShouldAllBe(row => row.Note == null);
        await nia.Done(new OpenMicrophone());
        await host.Done(new MuteAll());
        await Eventually.Holds(() => nia.Me.Microphone == MicrophoneState.Closed);
        await host.Done(new SetOrder(Order.SeePeople, Audience.Bench));
        await host.Done(new GiveRole([nia.Me.Seat], Role.Deputy));
        await Eventually.Holds(() => nia.Me.Viewer == Viewer.Bench && nia.Seats.Count == 3);
        waiting.Seats.ShouldBeEmpty();
        new[] { host, nia, waiting }.ShouldAllBe(live => !live.Missed);
        await using (host) await using (nia) await using (waiting) { }
    }

    [Theory]
    [InlineData("{}")]
    [InlineData("null")]
    [InlineData("[]")]
    [InlineData("\"admit\"")]
    [InlineData("{\"do\":\"open\",\"title\":\"x\"}")]
    [InlineData("{\"do\":\"nothing\"}")]
    [InlineData("{\"do\":\"admit\"}")]
    [InlineData("{\"do\":\"admit\",\"seats\":null}")]
    [InlineData("{\"do\":\"admit\",\"seats\":[\"a\"]}")]
    [InlineData("{\"do\":\"rename\",\"seat\":99999999999,\"name\":\"x\"}")]
    [InlineData("{\"do\":\"lockDoor\",\"words\":null,\"lateWait\":true}")]
    [InlineData("{\"do\":\"setOrder\",\"order\":\"speak\",\"to\":7}")]
    public async Task A_malformed_wish_is_refused_and_the_connection_goes_on(string json)
    {
        var (_, host) = await Open();
        await using var _ = host;
        (await host.Send(JsonDocument.Parse(json).RootElement)).ShouldNotBeNull().Reason.ShouldBe(Reason.NotUnderstood);
        await host.Done(new OpenMicrophone());
    }

    [Fact]
    public async Task A_flood_of_wishes_is_refused_and_others_are_not_held_up()
    {
        var (opened, host) = await Open();
        await using var _ = host;
        await using var guest = await court.Visitor().Announces(opened, "Flooder");
        await host.Done(new Admit([guest.Me!.Seat]));
        var answers = await Task.WhenAll(Enumerable.Range(0, 300).Select(n => guest.Do(new Rename(guest.Me!.Seat, $"n{n}"))));
        answers.Count(answer => answer is null).ShouldBeGreaterThan(30, "what is within the limit is done");
        answers.Count(answer => answer?.Reason == Reason.TooMany).ShouldBeGreaterThan(100);
        await host.Done(new LockDoor("Late", true));
    }

    [Fact]
    public async Task A_second_tab_takes_the_seat_and_the_first_is_told()
    {
        var (opened, host) = await Open();
        await using var _ = host;
        var visitor = court.Visitor();
        await using var first = await visitor.Announces(opened, "Two tabs");
        await using var second = await visitor.Connects(opened);
        await Eventually.Holds(() => first.Superseded);
        second.Me!.Seat.ShouldBe(first.Me!.Seat);
        await first.DisposeAsync();
        await Task.Delay(200);
        host.Seats[second.Me.Seat].Connected.ShouldBeTrue("the old tab's end is not the seat's");
    }

    [Fact]
    public async Task A_dropped_and_a_restarted_server_give_back_seat_place_role_and_mute()
    {
        var local = new Court();
        await local.InitializeAsync();
        var (hostVisitor, guestVisitor) = (await local.Host(), local.Visitor());
        var opened = await hostVisitor.Post<OpenedSitting>("/api/sessions", new OpenNow("Restart"));
        var host = await hostVisitor.Announces(opened, "Odalys");
        var guest = await guestVisitor.Announces(opened, "Ansel");
        await Eventually.Holds(() => host.Seats.Count == 2);
        await host.Done(new Admit([guest.Me!.Seat], Role.Presenter));
        await guest.Done(new OpenMicrophone());
        await guest.DisposeAsync();
        await Eventually.Holds(() => !host.Seats[guest.Me.Seat].Connected);

        await local.Restart();
        // Cookies belong to the host name, so the new port gets them, too.
        var back = await guestVisitor.Connects(opened);
        var hostBack = await hostVisitor.Connects(opened);

        back.Me!.ShouldSatisfyAllConditions(me => me.Seat.ShouldBe(guest.Me.Seat), me => me.Place.ShouldBe(Place.Seated),
            me => me.Role.ShouldBe(Role.Presenter), me => me.Microphone.ShouldBe(MicrophoneState.Open));
        await Eventually.Holds(() => hostBack.Seats[back.Me!.Seat].Connected);
        hostBack.Me!.Role.ShouldBe(Role.Host);
        await using (host) await using (back) await using (hostBack) await local.DisposeAsync();
    }

    [Fact]
    public async Task Entries_are_on_disk_when_the_wish_is_answered_and_the_check_finds_one_that_was_altered()
    {
        var (opened, host) = await Open();
        await using var _ = host;
        await host.Done(new LockDoor("Only these words", false));
        await using var disk = new SqliteConnection($"Data Source={Path.Combine(court.Folder, "hold-court.db")};Pooling=False");
        await disk.OpenAsync();
        await using var read = disk.CreateCommand();
        read.CommandText = "select Sequence from Entries where Json like '%Only these words%'";
        var sequence = Convert.ToInt64(await read.ExecuteScalarAsync(), System.Globalization.CultureInfo.InvariantCulture);

        var reader = court.Services.GetRequiredService<EntryReader>();
        Chain.FirstBreak(await reader.Read(opened.Sitting)).ShouldBeNull();
        await using var alter = disk.CreateCommand();
        alter.CommandText = "update Entries set Json = replace(Json, 'Only these', 'Other') where Json like '%Only these words%'";
        await alter.ExecuteNonQueryAsync();
        Chain.FirstBreak(await reader.Read(opened.Sitting)).ShouldBe(sequence);
    }

    [Fact]
    public async Task What_cannot_be_stored_is_not_done_and_the_sitting_goes_on_from_what_is_stored()
    {
        var (opened, host) = await Open();
        await using var _ = host;
        await using var disk = new SqliteConnection($"Data Source={Path.Combine(court.Folder, "hold-court.db")};Pooling=False");
        await disk.OpenAsync();
        await using var occupy = disk.CreateCommand();
        occupy.CommandText = """
            insert into Entries (SittingId, Sequence, At, By, About, IsOwn, Digest, Json)
            select SittingId, max(Sequence) + 1, 1, 0, '', 0, x'00', '{"sequence":' || (max(Sequence) + 1) || ',"at":1,"by":0,'
                || '"fact":{"what":"reconnected","seat":1}}'
            from Entries where upper(SittingId) = $sitting
            """;
        occupy.Parameters.AddWithValue("$sitting", opened.Sitting.ToString().ToUpperInvariant());
        (await occupy.ExecuteNonQueryAsync()).ShouldBe(1);

        (await host.Do(new LockDoor("Not stored", false))).ShouldNotBeNull().Reason.ShouldBe(Reason.NotStored);
        // The page is told to join anew, and then goes on.
        await Eventually.Succeeds(() => host.Done(new LockDoor("Stored", true)));

        var stored = await court.Services.GetRequiredService<EntryReader>().Read(opened.Sitting);
        stored.Select(entry => entry.Sequence).ShouldBe(Enumerable.Range(1, stored.Count).Select(n => (long)n));
        stored.ShouldNotContain(entry => entry.Json.Contains("Not stored", StringComparison.Ordinal));
        stored[^1].Json.ShouldContain("Stored");
    }

    [Fact]
    public async Task Many_at_the_door_at_once_all_get_seats_of_their_own()
    {
        var (opened, host) = await Open();
        await using var _ = host;
        var guests = await Task.WhenAll(Enumerable.Range(0, 60).Select(n => court.Visitor().Announces(opened, $"Guest {n}")));
        guests.Select(guest => guest.Me!.Seat).Distinct().Count().ShouldBe(60);
        await Eventually.Holds(() => host.Sitting!.Counts!.Waiting == 60);
        await host.Done(new Admit([.. guests.Select(guest => guest.Me!.Seat)]));
        await Eventually.Holds(() => guests.All(guest => guest.Me!.Viewer == Viewer.Attendee && guest.Seats.Count == 61));
        guests.ShouldAllBe(guest => !guest.Missed);
        foreach (var guest in guests) await guest.DisposeAsync();
    }

    [Fact]
    public async Task After_adjourning_everybody_reads_it_and_the_link_says_it_is_over()
    {
        var (opened, host) = await Open();
        await using var _ = host;
        var visitor = court.Visitor();
        await using var guest = await visitor.Announces(opened, "Guest");
        await host.Done(new Adjourn());
        await Eventually.Holds(() => guest.Sitting!.Session!.Phase == Phase.Adjourned);
        await Eventually.Holds(() => visitor.Get<DoorPage>($"/api/door/{opened.Link}").Result.Phase == DoorPhase.Over);
        (await Visitor.ReasonOf(await visitor.Post($"/api/door/{opened.Link}/announce", new AnnounceWish("Guest")))).ShouldBe("notOpen");
    }
}
