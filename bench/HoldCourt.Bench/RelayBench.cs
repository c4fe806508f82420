using System.Diagnostics;
using System.Text.Json;
using HoldCourt.Server.Api;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.Extensions.DependencyInjection;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Bench;

/// <summary>The relay against a loop that writes the same frames to the same number of sockets.</summary>
internal static class RelayBench
{
    private const int Seconds = 15;

    public static async Task Run()
    {
        var first = await Against(1, 50);
        await Against(8, 50);
        await Many(10, 300, first);
        await WhilePagesAreMade(8, 50);
        await WhileRecording(10, 50);
        await InRooms();
    }

    /// <summary>20 rooms of 10, each with 3 who send and one of them speaking, against one hall in which 3 send to as many.</summary>
    public static async Task InRooms()
    {
        const int Rooms = 20, Senders = 3 * Rooms, Receivers = 7 * Rooms;
        using var server = Started.Server(Directory.CreateTempSubdirectory("hold-court-bench-").FullName);
        // As many receivers, each of which gets as much: in one hall, where a frame that comes in goes out to all of them, and in as many
        // sittings as there are rooms, where it goes to seven as in a room.
        var (whole, host, _) = await Prepare(server.Address, 3, Receivers, 1);
        var (hall, hallCpu, _) = await Measure(server, whole);
        var halls = new LoadPlan([], [], [], 0, Seconds);
        for (var n = 0; n < Rooms; n++)
        {
            var (one, _, _) = await Prepare(host, server.Address, 3, 7, 1);
            // The first of each three speaks: those stand first.
            halls = halls with
            {
                Senders = [.. halls.Senders.Take(n), one.Senders[0], .. halls.Senders.Skip(n), .. one.Senders[1..]],
                Receivers = [.. halls.Receivers, .. one.Receivers],
                SenderSeats = one.SenderSeats,
                Voices = n + 1
            };
        }
        var (apart, apartCpu, _) = await Measure(server, halls);
        var form = RoomForm.Of() with
        {
            Rooms =
            [
                .. Enumerable.Range(0, Rooms).Select(room => new RoomSpec("", null, [],
                    [.. Enumerable.Range(0, Senders + Receivers).Where(n => n % Rooms == room).Select(n => $"Person {n}")]))
            ]
        };
        var (plan, _, _) = await Prepare(server.Address, Senders, Receivers, Rooms, new PlanRooms(form), new OpenRooms());
        await Task.Delay(RoomBook.Countdown + TimeSpan.FromSeconds(2));
        var (rooms, cpu, _) = await Measure(server, plan with { Groups = Rooms });
        Numbers.Head($"Relay, {Rooms} rooms of 10, 3 of each sending, against 3 to {Receivers} in one hall");
        Numbers.Row("frames a second",
            $"{rooms.FramesPerSecond:F0} (each to its room: {Rooms * 7 * ((3 * 20) + 50)}; hall {hall.FramesPerSecond:F0})");
        Numbers.Row("delay: median, p99", $"{rooms.Median:F1} ms, {rooms.P99:F1} ms (hall {hall.Median:F1} ms, {hall.P99:F1} ms)");
        Numbers.Row("messages for each frame", $"{rooms.MessagesPerFrame:F2} (hall {hall.MessagesPerFrame:F2})");
        Numbers.Row("frames a second that came in",
            $"{rooms.SentPerSecond:F0} (hall {hall.SentPerSecond:F0}, {Rooms} halls {apart.SentPerSecond:F0})");
        Numbers.Row("of what came in was forwarded",
            $"{rooms.FramesPerSecond / rooms.SentPerSecond / 7:P1} (hall {hall.FramesPerSecond / hall.SentPerSecond / Receivers:P1}, "
            + $"{Rooms} halls {apart.FramesPerSecond / apart.SentPerSecond / 7:P1})");
        Numbers.Row($"CPU for each frame over that of {Rooms} halls of 10",
            $"{cpu / rooms.FramesPerSecond / (apartCpu / apart.FramesPerSecond):F2} (target: at most 1)");
        Numbers.Row("CPU for each frame over that of the hall",
            $"{cpu / rooms.FramesPerSecond / (hallCpu / hall.FramesPerSecond):F2}");
    }

    /// <summary>The same load on the same server, not recorded and recorded; and while a film is composed.</summary>
    public static async Task WhileRecording(int senders, int receivers)
    {
        var folder = Directory.CreateTempSubdirectory("hold-court-bench-").FullName;
        using var server = Started.Server(folder);
        var (before, cpuBefore, _) = await Measure(server, (await Prepare(server.Address, senders, receivers, 4)).Plan);
        var (plan, _, sitting) = await Prepare(server.Address, senders, receivers, 4, new StartRecording());
        var (recorded, cpu, _) = await Measure(server, plan);
        var tracks = Directory.GetFiles(Path.Combine(folder, "recordings", sitting.ToString("N")), "*.webm", SearchOption.AllDirectories);
        var (bytes, seconds) = (tracks.Sum(file => new FileInfo(file).Length), 0.0);
        foreach (var file in tracks.Where(file => Path.GetFileName(file).StartsWith("camera", StringComparison.Ordinal)))
            using (var reader = new WebmReader(file)) seconds += reader.Blocks().Count() / 20.0;
        // Of what is sent: pictures of 3,000 bytes, and voices of 70.
        var sent = seconds * ((3_000 * 20) + (0.4 * 70 * 50));
        using var ends = new CancellationTokenSource();
        var composing = ComposeBench.Endlessly(ends.Token);
        var (meanwhile, _, _) = await Measure(server, (await Prepare(server.Address, senders, receivers, 4)).Plan);
        await ends.CancelAsync();
        await composing;
        Numbers.Head($"Relay, {senders} to {receivers} (4 speaking), recorded");
        Numbers.Row("delay: median, p99",
            $"{recorded.Median:F1} ms, {recorded.P99:F1} ms (not recorded {before.Median:F1} ms, {before.P99:F1} ms)");
        Numbers.Row("p99 over that of not recorded", $"{recorded.P99 / before.P99:F2} (target: at most 1.2)");
        Numbers.Row("CPU that recording adds, of one core", $"{cpu - cpuBefore:P1} (target: under 10 %)");
        Numbers.Row("tracks over what was sent", $"{bytes / sent:F3} (target: at most 1)");
        Numbers.Row("p99 while a film is composed, over that of before", $"{meanwhile.P99 / before.P99:F2} (target: at most 1.3)");
    }

    /// <summary>The same load on the same server, while nothing else happens and while pages of documents are made without end.</summary>
    public static async Task WhilePagesAreMade(int senders, int receivers)
    {
        using var server = Started.Server(Directory.CreateTempSubdirectory("hold-court-bench-").FullName);
        var (before, _, _) = await Measure(server, (await Prepare(server.Address, senders, receivers, 4)).Plan);
        var (plan, host, sitting) = await Prepare(server.Address, senders, receivers, 4);
        using var ends = new CancellationTokenSource();
        var made = Make();
        var (meanwhile, cpu, _) = await Measure(server, plan);
        await ends.CancelAsync();
        Numbers.Head($"Relay, {senders} to {receivers}, while documents of 100 pages are made one after the other");
        Numbers.Row("documents made meanwhile", $"{await made}");
        Numbers.Row("delay: median, p99",
            $"{meanwhile.Median:F1} ms, {meanwhile.P99:F1} ms (before {before.Median:F1} ms, {before.P99:F1} ms)");
        Numbers.Row("CPU of the server itself, of one core", $"{cpu:P1}");
        Numbers.Row("p99 over that of before", $"{meanwhile.P99 / before.P99:F2} (target: at most 1.3)");

        async Task<int> Make()
        {
            var count = 0;
            while (!ends.IsCancellationRequested)
            {
                var brought = await host.Bring(sitting, $"hundred {count}.pdf", ExhibitBench.Hundred());
                for (var page = 1; page <= 100 && !ends.IsCancellationRequested; page++)
                    try { await host.Bytes($"/api/sittings/{sitting}/exhibits/{brought}/pages/{page}/160"); }
                    catch (HttpRequestException)
                    {
                        page--;
                        await Task.Delay(50);
                    }
                count++;
            }
            return count;
        }
    }

    /// <returns>CPU for each frame, in microseconds.</returns>
    private static async Task<double> Against(int senders, int receivers)
    {
        var voices = Math.Min(senders, 4);
        using var server = Started.Server(Directory.CreateTempSubdirectory("hold-court-bench-").FullName);
        var (ours, ourCpu, ourRest) = await Measure(server, (await Prepare(server.Address, senders, receivers, voices)).Plan);
        using var bare = Started.Bare();
        var frames = bare.Address.ToString().Replace("http:", "ws:", StringComparison.Ordinal) + "frames?role=";
        var (plain, plainCpu, plainRest) =
            await Measure(bare, new LoadPlan([.. Enumerable.Repeat(frames + "send", senders)],
            [.. Enumerable.Repeat(frames + "receive", receivers)], [], voices, Seconds));
        Numbers.Head($"Relay, {senders} to {receivers} ({voices} speaking)");
        Numbers.Row("frames a second", $"{ours.FramesPerSecond:F0} (bare {plain.FramesPerSecond:F0})");
        Numbers.Row("delay: median, p99", $"{ours.Median:F1} ms, {ours.P99:F1} ms (bare {plain.Median:F1} ms, {plain.P99:F1} ms)");
        Numbers.Row("messages for each frame", $"{ours.MessagesPerFrame:F2} (bare {plain.MessagesPerFrame:F2})");
        Numbers.Row("CPU of the server, of one core", $"{ourCpu:P1} (bare {plainCpu:P1})");
        Numbers.Row("the same while all are there and nobody sends", $"{ourRest:P1} (bare {plainRest:P1})");
        Numbers.Row("CPU for each frame over bare, the whole server",
            $"{ourCpu / ours.FramesPerSecond / (plainCpu / plain.FramesPerSecond):F2}");
        Numbers.Row("CPU for each frame over bare, what sending adds",
            $"{(ourCpu - ourRest) / ours.FramesPerSecond / ((plainCpu - plainRest) / plain.FramesPerSecond):F2} (target: at most 1.3)");
        return ourCpu / ours.FramesPerSecond * 1e6;
    }

    /// <summary>So many that a loop with a message for each frame does not keep up on the same machine.</summary>
    /// <param name="few">CPU for each frame to 50, in microseconds.</param>
    private static async Task Many(int senders, int receivers, double few)
    {
        using var server = Started.Server(Directory.CreateTempSubdirectory("hold-court-bench-").FullName);
        var (ours, cpu, _) = await Measure(server, (await Prepare(server.Address, senders, receivers, 4)).Plan);
        Numbers.Head($"Relay, {senders} to {receivers} (4 speaking)");
        Numbers.Row("frames a second", $"{ours.FramesPerSecond:F0} (sent: {receivers * ((senders * 20) + (4 * 50))})");
        Numbers.Row("delay: median, p99", $"{ours.Median:F1} ms, {ours.P99:F1} ms (last: p99 24 ms)");
        Numbers.Row("messages for each frame", $"{ours.MessagesPerFrame:F2}");
        Numbers.Row("CPU of the server, of one core", $"{cpu:P1} (last: 43 %)");
        Numbers.Row("CPU for each frame, over that of 1 to 50", $"{cpu / ours.FramesPerSecond * 1e6 / few:F2}");
    }

    private static async Task<(LoadResult Result, double Cpu, double AtRest)> Measure(Started server, LoadPlan plan)
    {
        var file = Path.GetTempFileName();
        await File.WriteAllTextAsync(file, JsonSerializer.Serialize(plan, CoreJson.Options));
        using var load = Process.Start(new ProcessStartInfo("dotnet",
            $"{typeof(RelayBench).Assembly.Location} load {file}")
        { RedirectStandardOutput = true })!;
        await load.StandardOutput.ReadLineAsync();
        var (line, share) = await Share();
        await load.StandardOutput.ReadLineAsync();
        var (_, rest) = await Share();
        await load.WaitForExitAsync();
        return (JsonSerializer.Deserialize<LoadResult>(line, CoreJson.Options)!, share, rest);

        async Task<(string Line, double Cpu)> Share()
        {
            var (cpu, start) = (server.Cpu, Stopwatch.GetTimestamp());
            var next = await load.StandardOutput.ReadLineAsync() ?? throw new InvalidOperationException("The load ended early.");
            return (next, (server.Cpu - cpu) / Stopwatch.GetElapsedTime(start));
        }
    }

    private static async Task<(LoadPlan Plan, CourtAddress Host, Guid Sitting)> Prepare(Uri address, int senders, int receivers, int voices,
        params SeatCommand[] also)
    {
        var host = new CourtAddress(address);
        await host.SignIn();
        return await Prepare(host, address, senders, receivers, voices, also);
    }

    private static async Task<(LoadPlan Plan, CourtAddress Host, Guid Sitting)> Prepare(CourtAddress host, Uri address, int senders,
        int receivers, int voices, params SeatCommand[] also)
    {
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Relay"));
        await host.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish("Host"));
        var (hub, _) = await Connect(host);
        await Do(hub, new SetDoor(DoorMode.Open));
        var (sending, receiving, seats) = (new List<string>(), new List<string>(), new List<int>());
        for (var n = 0; n < senders + receivers; n++)
        {
            var guest = new CourtAddress(address);
            await guest.Post<Announcement>($"/api/door/{opened.Link}/announce", new AnnounceWish($"Person {n}"));
            var (connection, seat) = await Connect(guest);
            var sends = n < senders;
            if (sends)
            {
                await Do(connection, new TurnCamera(true));
                if (n < voices) await Do(connection, new OpenMicrophone());
                seats.Add(seat);
            }
            var ticket = await connection.InvokeAsync<string>("MediaTicket");
            (sends ? sending : receiving).Add($"ws://{address.Authority}/media?ticket={Uri.EscapeDataString(ticket)}");
        }
        foreach (var wish in also) await Do(hub, wish);
        return (new LoadPlan([.. sending], [.. receiving], [.. seats], voices, Seconds), host, opened.Sitting);

        async Task<(HubConnection, int)> Connect(CourtAddress who)
        {
            var joined = new TaskCompletionSource<int>();
            var connection = new HubConnectionBuilder()
                .WithUrl(new Uri(address, $"/live?sitting={opened.Sitting}"), options => options.Cookies = who.Cookies)
                .AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions)).Build();
            connection.On<Joined>("Joined", from => joined.TrySetResult(from.Me.Seat.Number));
            await connection.StartAsync();
            return (connection, await joined.Task);
        }

        static Task Do(HubConnection connection, SeatCommand command) =>
            connection.InvokeAsync<Refusal?>("Do", JsonSerializer.SerializeToElement(command, CoreJson.Options), null);
    }
}
