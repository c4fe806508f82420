using System.Net;
using System.Text;
using HoldCourt.Server.Api;
using HoldCourt.Server.Planning;

namespace HoldCourt.Server.Tests;

/// <summary>
/// A plan of rooms as a table: read for hosts and the bench alone, with the line that is wrong, and written as it is read.
/// </summary>
public sealed class RoomTableTests : IAsyncLifetime
{
    private Court _court = null!;

    public async Task InitializeAsync() => _court = await Court.With("--Demo:Load", "true");

    public Task DisposeAsync() => _court.DisposeAsync();

    private static async Task<(string? Reason, int? Line)> Flaw(HttpResponseMessage answer)
    {
        answer.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        var problem = System.Text.Json.JsonDocument.Parse(await answer.Content.ReadAsStringAsync()).RootElement;
        return (problem.GetProperty("reason").GetString(), problem.TryGetProperty("line", out var line) ? line.GetInt32() : null);
    }

    [Fact]
    public async Task A_table_is_read_as_spreadsheets_write_it_and_written_so_that_it_is_read_again()
    {
        using var host = await _court.Host();
        const string Table = "Room;Person;Lead;Task;Document\r\nAller;Teodor;yes;\"Count; then write\";Worksheet\r\naller;Nia;;;\r\n"
            + "2;Jun;no;;\r\n2;Nia;;;\r\n";
        var read = await host.Post<ReadRooms>("/api/rooms/read", Encoding.Latin1.GetBytes(Table));
        read.Rooms.ShouldBe([new RoomSpec("Aller", "Count; then write", ["Teodor"], ["Nia"], "Worksheet"),
            new RoomSpec("", null, [], ["Jun", "Nia"])]);
        read.Twice.ShouldBe(["Nia"]);
        var form = RoomForm.Of() with { Rooms = [.. read.Rooms.Append(new RoomSpec("=1+1", null, [], ["-Ada"]))], Task = "For all" };
        var written = await (await host.Post("/api/rooms/rooms.csv", form)).Content.ReadAsByteArrayAsync();
        Encoding.UTF8.GetString(written).ShouldContain("'=1+1", Case.Sensitive, "no spreadsheet takes it for a formula");
        (await host.Post<ReadRooms>("/api/rooms/read", written)).Rooms.ShouldBe(
            [read.Rooms[0], read.Rooms[1] with { Task = "For all" }, form.Rooms[2] with { Task = "For all" }]);
    }

    [Theory]
    [InlineData("person,lead\nNia,yes", "csvNoRoom", null)]
    [InlineData("room,person\nAller,Nia\n,Jun", "csvRoomEmpty", 3)]
    [InlineData("room,task\nAller,Count\nAller,Write", "csvTwoTasks", 3)]
    [InlineData("room,document\nAller,Map\nAller,Sheet", "csvTwoDocuments", 3)]
    [InlineData("room,person,lead\nAller,Nia,perhaps", "csvLead", 2)]
    [InlineData("room,person\nAller,\"Nia\nWey,Jun", "csvQuote", null)]
    [InlineData("room\n", "nothingToRead", null)]
    [InlineData("", "fileEmpty", null)]
    public async Task What_is_wrong_with_a_table_is_told_with_its_line(string table, string reason, int? line)
    {
        using var host = await _court.Host();
        (await Flaw(await host.Post("/api/rooms/read", Encoding.UTF8.GetBytes(table)))).ShouldBe((reason, line));
    }

    [Fact]
    public async Task Too_many_rooms_and_too_long_names_are_refused_and_a_flood_is_cut_off()
    {
        using var host = await _court.Host();
        async Task<string?> Reason(string table) => (await Flaw(await host.Post("/api/rooms/read", Encoding.UTF8.GetBytes(table)))).Reason;
        (await Reason("room\n" + string.Join('\n', Enumerable.Range(1, 101).Select(n => $"r{n}")))).ShouldBe("tooManyRooms");
        (await Reason("room\n" + new string('x', 61))).ShouldBe("roomNameTooLong");
        (await Reason("room,person\n" + string.Join('\n', Enumerable.Repeat("a,b", RoomTable.MostLines + 1)))).ShouldBe("tooManyLines");
        (await host.Post("/api/rooms/read", new byte[1_100_000])).StatusCode.ShouldBe(HttpStatusCode.RequestEntityTooLarge);
        (await host.Post("/api/rooms/rooms.csv", new { rooms = (object?)null })).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task In_a_sitting_the_bench_alone_reads_and_takes_away_who_goes_where()
    {
        using var host = await _court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Tables"));
        await using var bench = await host.Announces(opened, "Odalys");
        await bench.Done(new SetDoor(DoorMode.Open));
        using var nia = _court.Visitor();
        await using var line = await nia.Announces(opened, "Nia Okafor");
        await bench.Done(new SetDoor(DoorMode.Attended));
        using var waiting = _court.Visitor();
        await using var outside = await waiting.Announces(opened, "Jun Takeda");
        var (read, whole) = ($"/api/sittings/{opened.Sitting}/rooms/read", $"/api/sittings/{opened.Sitting}/rooms.csv");
        (await Visitor.ReasonOf(await host.Get(whole))).ShouldBe("noRoomsPlanned");
        await bench.Done(new PlanRooms(RoomForm.Of() with { Rooms = [new RoomSpec("Aller", null, ["nia"], []), RoomSpec.Called("Wey")] }));
        await Eventually.Succeeds(async () =>
            (await (await host.Get(whole)).Content.ReadAsStringAsync()).ShouldContain("Aller,,,Nia Okafor,yes\r\nWey,,,,"));
        var rounds = $"/api/sittings/{opened.Sitting}/rounds.csv";
        (await (await host.Get(rounds)).Content.ReadAsStringAsync()).ShouldEndWith("round,room,task,what,name\r\n");
        using var nobody = _court.Visitor();
        foreach (var other in new[] { nia, waiting, nobody })
        {
            (await other.Get(whole)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
            (await other.Get(rounds)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
            (await other.Post(read, "room\nAller"u8.ToArray())).StatusCode.ShouldBe(HttpStatusCode.NotFound);
            (await other.Post("/api/rooms/read", "room\nAller"u8.ToArray())).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        }
        // A deputy without an account reads it, and no longer once that was taken back.
        await bench.Done(new GiveRole([line.Me!.Seat], Role.Deputy));
        await Eventually.Succeeds(async () => (await nia.Post(read, "room\nAller"u8.ToArray())).StatusCode.ShouldBe(HttpStatusCode.OK));
        (await nia.Get(whole)).StatusCode.ShouldBe(HttpStatusCode.OK);
        await bench.Done(new GiveRole([line.Me!.Seat], Role.Attendee));
        await Eventually.Succeeds(async () => (await nia.Get(whole)).StatusCode.ShouldBe(HttpStatusCode.NotFound));
    }
}
