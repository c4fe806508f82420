using System.Diagnostics;
using System.Net;
using System.Net.WebSockets;
using System.Runtime.InteropServices;
using HoldCourt.Server.Api;
using HoldCourt.Server.Lending;

namespace HoldCourt.Server.Tests;

/// <summary>Controls that are lent: the agent and a made-up desk run on a real X server without a screen.</summary>
public class LendingTests(Court court) : IClassFixture<Court>
{
    private sealed class Program : IDisposable
    {
        private readonly Process _process;
        private readonly List<string> _lines = [];

        public Program(string file, params string[] arguments)
        {
            _process = new Process
            {
                StartInfo = new ProcessStartInfo(file, arguments)
                { RedirectStandardOutput = true, RedirectStandardError = true }
            };
            _process.OutputDataReceived += (_, line) => Add(line.Data);
            _process.ErrorDataReceived += (_, line) => Add(line.Data);
            _process.Start();
            _process.BeginOutputReadLine();
            _process.BeginErrorReadLine();
        }

        private void Add(string? line)
        {
            if (line is not null) lock (_lines) _lines.Add(line);
        }

        public string Said { get { lock (_lines) return string.Join('\n', _lines); } }

        public bool HasEnded => _process.HasExited;

        public void Dispose()
        {
            if (!_process.HasExited) _process.Kill();
            _process.Dispose();
        }
    }

    private static Program Agent(params string[] arguments) =>
        new("dotnet", [Path.Combine(AppContext.BaseDirectory, "HoldCourt.Agent.dll"), .. arguments]);

    private sealed record Room(OpenedSitting Opened, Visitor Host, Live Bench, Live Nia, int Screen);

    private async Task<Room> Shown(string title)
    {
        var host = await court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow(title));
        var bench = await host.Announces(opened, "Odalys");
        await bench.Done(new SetDoor(DoorMode.Open));
        var nia = await court.Visitor().Announces(opened, "Nia");
        await bench.Done(new OpenScreen());
        await bench.Done(new ShowExhibit(1));
        return new Room(opened, host, bench, nia, 1);
    }

    private static async Task<string> Code(Room room) =>
        (await room.Host.Post<AgentCode>($"/api/sittings/{room.Opened.Sitting}/agent")).Code;

    private static ExhibitRow Screen(Live live) => live.Sitting!.Shelf!.Exhibits.Single();

    [Fact]
    public async Task Whoever_was_lent_a_screen_drives_the_desk_until_it_is_taken_back()
    {
        var display = $":{Random.Shared.Next(100, 900)}";
        using var x = new Program("Xvfb", display, "-screen", "0", "1280x720x24", "-nolisten", "tcp");
        await Eventually.Holds(() => File.Exists($"/tmp/.X11-unix/X{display[1..]}"));
        using var desk = Agent("--desktop", "--screen", display);
        await Eventually.Holds(() => desk.Said.Contains("ready"));
        var room = await Shown("Lending");
        (await room.Bench.Do(new LendControls(room.Nia.Me!.Seat)))!.Reason.ShouldBe(Reason.NoAgent);
        using var agent = Agent("--server", court.Address.ToString(), "--code", await Code(room), "--screen", display);
        await Eventually.Holds(() => Screen(room.Bench).HasAgent);
        await room.Bench.Done(new LendControls(room.Nia.Me!.Seat));
        // Not taken yet: nothing passes.
        await room.Nia.Drive(1, new DriveInput(DriveKind.Move, 0.1, 0.15), Press(true), Press(false));
        await room.Nia.Done(new TakeControls());
        await Eventually.Holds(() => agent.Said.Contains("Nia drives this screen"));

        // 170 of 1280 across and 112 of 720 down stands a button; then two letters are typed, one of them a capital.
        await room.Nia.Drive(1, new DriveInput(DriveKind.Move, 170 / 1279.0, 112 / 719.0), Press(true), Press(false));
        await room.Nia.Drive(1, Key("ShiftLeft", true), Key("KeyO", true), Key("KeyO", false), Key("ShiftLeft", false),
            Key("KeyK", true), Key("KeyK", false));
        await Eventually.Holds(() => desk.Said.Contains("\"typed\":\"Ok\""));
        desk.Said.ShouldContain("""{"is":"press","x":170,"y":112,"button":1,"on":"Open the weir gate"}""");
        desk.Said.Split("\"is\":\"press\"").Length.ShouldBe(2, "what came before it was taken never arrived");

        // Nobody else, and not from another tab's line.
        await room.Bench.Drive(1, Key("KeyZ", true), Key("KeyZ", false));
        // A key that is down when it is taken back is let go: with Shift still down this would be a capital.
        await room.Nia.Drive(1, Key("ShiftLeft", true));
        await Eventually.Holds(() => desk.Said.Contains("Shift_L\",\"typed\":\"Ok\""));
        await room.Bench.Done(new EndLoan());
        await room.Nia.Drive(1, Key("KeyX", true), Key("KeyX", false));
        await Eventually.Holds(() => agent.Said.Contains("Nobody drives this screen any more"));
        await room.Bench.Done(new LendControls(room.Nia.Me!.Seat));
        await room.Nia.Done(new TakeControls());
        await Eventually.Holds(() => agent.Said.Split("Nia drives").Length == 3);
        await room.Nia.Drive(1, Key("KeyA", true), Key("KeyA", false));
        await Eventually.Holds(() => desk.Said.Contains("\"typed\":\"Oka\""));
        // Keys of the machine itself are not passed on.
        await room.Nia.Drive(1, Key("Pause", true), Key("MetaLeft", true), Key("KeyR", true), Key("KeyR", false));
        await Eventually.Holds(() => desk.Said.Contains("\"typed\":\"Okar\""));

        // Somebody sits at the screen and moves the mouse: another program does, as far as the agent can tell.
        Nudge(display);
        await Eventually.Holds(() => Screen(room.Bench).Loan is null);
        await room.Nia.Drive(1, Key("KeyX", true), Key("KeyX", false));
        await room.Bench.Done(new CloseExhibit(1));
        await Eventually.Holds(() => agent.HasEnded);
        desk.Said.ShouldContain("\"typed\":\"Okar\"");
        desk.Said.ShouldNotContain("\"name\":\"x\"");
        desk.Said.ShouldNotContain("\"name\":\"z\"");
    }

    private static void Nudge(string display)
    {
        var screen = XOpenDisplay([.. System.Text.Encoding.ASCII.GetBytes(display), 0]);
        _ = XTestFakeMotionEvent(screen, 0, 900, 600, 0);
        _ = XCloseDisplay(screen);
    }

    [DllImport("libX11.so.6")] private static extern nint XOpenDisplay(byte[] name);
    [DllImport("libX11.so.6")] private static extern int XCloseDisplay(nint display);
    [DllImport("libXtst.so.6")] private static extern int XTestFakeMotionEvent(nint display, int screen, int x, int y, nuint delay);

    private static DriveInput Press(bool down) => new(DriveKind.Button, Button: 1, Down: down);

    private static DriveInput Key(string code, bool down) => new(DriveKind.Key, Code: code, Down: down);

    [Fact]
    public async Task An_agent_comes_in_by_one_code_once_and_nobody_gets_a_code_for_another_screen()
    {
        var room = await Shown("Codes");
        var nia = court.Visitor();
        await using var seat = await nia.Announces(room.Opened, "Ilse");
        var address = $"/api/sittings/{room.Opened.Sitting}/agent";
        (await Visitor.ReasonOf(await nia.Post(address))).ShouldBe("noScreenOpen");
        using var stranger = court.Visitor();
        (await stranger.Post(address)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        var first = await Code(room);
        var code = await Code(room);
        (await Connects(first)).ShouldBeNull("a newer one voids it");
        (await Connects("guessed")).ShouldBeNull();
        using var agent = (await Connects(code)).ShouldNotBeNull();
        (await Line(agent)).ShouldBe("""{"is":"hello","version":1}""");
        await Eventually.Holds(() => Screen(room.Bench).HasAgent);
        (await Connects(code)).ShouldBeNull("it is good for once");

        await room.Bench.Done(new LendControls(room.Nia.Me!.Seat));
        await room.Nia.Done(new TakeControls());
        (await Line(agent)).ShouldBe("""{"is":"grant","driver":"Nia"}""");
        // Odd values are let go, all of what came together with them; what is in order passes.
        foreach (var odd in new[]
        {
            new DriveInput(DriveKind.Move, 1.01, 0), new DriveInput(DriveKind.Move, 0, -0.01),
            new DriveInput(DriveKind.Button, Button: 9),
            new DriveInput(DriveKind.Key, Code: "Key A"), new DriveInput(DriveKind.Key),
            new DriveInput(DriveKind.Wheel, 0, 999), new DriveInput(DriveKind.Key, Code: new string('A', 25))
        })
            await room.Nia.Drive(1, Key("KeyB", true), odd);
        await room.Nia.Drive(1, [.. Enumerable.Repeat(Key("KeyB", true), DriveInput.MostAtOnce + 1)]);
        await room.Nia.Drive(2, Key("KeyC", true));
        await room.Nia.Drive(1, new DriveInput(DriveKind.Move, 0.25, 0.75));
        (await Line(agent)).ShouldBe("""{"is":"move","x":0.25,"y":0.75}""");
        await room.Bench.Done(new HoldScreen(true));
        (await Line(agent)).ShouldBe("""{"is":"release"}""");
        await room.Nia.Drive(1, Key("KeyD", true));
        await room.Bench.Done(new HoldScreen(false));
        (await Line(agent)).ShouldBe("""{"is":"grant","driver":"Nia"}""", "nothing came meanwhile");

        // A browser that vanishes with a key held down lets go of it.
        await room.Nia.Drive(1, Key("KeyE", true));
        (await Line(agent)).ShouldBe("""{"is":"key","code":"KeyE","down":true}""");
        await room.Nia.DisposeAsync();
        (await Line(agent)).ShouldBe("""{"is":"release"}""");

        // An older agent goes when a newer one comes; when the last one goes nothing is lent.
        using var newer = (await Connects(await Code(room))).ShouldNotBeNull();
        (await Line(newer)).ShouldBe("""{"is":"hello","version":1}""");
        (await Line(agent)).ShouldBe("""{"is":"release"}""");
        newer.Abort();
        await Eventually.Holds(() => !Screen(room.Bench).HasAgent && Screen(room.Bench).Loan is null);
    }

    [Fact]
    public async Task After_a_restart_nobody_drives_until_it_is_lent_anew()
    {
        var own = new Court();
        await own.InitializeAsync();
        using var owner = await own.Host();
        using var visitor = own.Visitor();
        var opened = await owner.Post<OpenedSitting>("/api/sessions", new OpenNow("Restarted"));
        await using (var bench = await owner.Announces(opened, "Odalys"))
        {
            await bench.Done(new SetDoor(DoorMode.Open));
            await using var nia = await visitor.Announces(opened, "Nia");
            await bench.Done(new OpenScreen());
            await bench.Done(new ShowExhibit(1));
            var code = (await owner.Post<AgentCode>($"/api/sittings/{opened.Sitting}/agent")).Code;
            using var agent = (await Connects(code, own.Address)).ShouldNotBeNull();
            await Eventually.Holds(() => Screen(bench).HasAgent);
            await bench.Done(new LendControls(nia.Me!.Seat));
            await nia.Done(new TakeControls());
        }
        await own.Restart();
        await using var again = await owner.Connects(opened);
        await using var back = await visitor.Connects(opened);
        await Eventually.Holds(() => !Screen(again).HasAgent && Screen(again).Loan is null);
        (await back.Do(new TakeControls()))!.Reason.ShouldBe(Reason.NothingLent);
        await own.DisposeAsync();
    }

    private Task<ClientWebSocket?> Connects(string code) => Connects(code, court.Address);

    private static async Task<ClientWebSocket?> Connects(string code, Uri server)
    {
        var socket = new ClientWebSocket();
        socket.Options.SetRequestHeader("Authorization", $"Bearer {code}");
        try
        {
            await socket.ConnectAsync(new UriBuilder(server) { Scheme = "ws", Path = "/agent" }.Uri, CancellationToken.None);
            return socket;
        }
        catch (WebSocketException)
        {
            socket.Dispose();
            return null;
        }
    }

    private static async Task<string> Line(ClientWebSocket socket)
    {
        var buffer = new byte[4_096];
        using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(20));
        var got = await socket.ReceiveAsync(buffer.AsMemory(), patience.Token);
        return System.Text.Encoding.UTF8.GetString(buffer, 0, got.Count);
    }
}
