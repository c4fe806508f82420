using System.Net.WebSockets;

namespace HoldCourt.Agent;

/// <summary>The agent beside a shared screen; with <c>--desktop</c>, a made-up desk to try it with.</summary>
internal static class Program
{
    private const string Usage = """
        Lets somebody in a Hold Court session drive this screen, as long as whoever shares it wishes so.

          HoldCourt.Agent --server https://court.example.org --code CODE [--screen :0]
          HoldCourt.Agent --desktop [--screen :7]     a made-up desk, to try it with

        With --until-input-ends the made-up desk ends when what it reads does.
        The code stands on the page of whoever shares the screen. Pause, any key, or the mouse at this screen stops it at once.
        """;

    public static async Task<int> Main(string[] args)
    {
        string? Of(string name) => Array.IndexOf(args, name) is >= 0 and var at && at + 1 < args.Length ? args[at + 1] : null;
        using var ends = new CancellationTokenSource();
        Console.CancelKeyPress += (_, pressed) => { pressed.Cancel = true; ends.Cancel(); };
        using var terminated = System.Runtime.InteropServices.PosixSignalRegistration.Create(
            System.Runtime.InteropServices.PosixSignal.SIGTERM, signal => { signal.Cancel = true; ends.Cancel(); });
        Console.Out.Flush();
        try
        {
            if (args.Contains("--desktop"))
            {
                if (args.Contains("--until-input-ends"))
                    _ = Task.Run(async () =>
                    {
                        while (await Console.In.ReadLineAsync() is not null) { }
                        await ends.CancelAsync();
                    });
                Desk.Run(Of("--screen"), Console.Out, ends.Token);
                return 0;
            }
            if (!Uri.TryCreate(Of("--server"), UriKind.Absolute, out var server) || server.Scheme is not ("http" or "https")
                || Of("--code") is not { Length: > 0 } code)
            {
                Console.Error.WriteLine(Usage);
                return 2;
            }
            using var screen = new Screen(Of("--screen"));
            await new Driving(screen, Console.Out).Run(server, code, ends.Token);
            Console.WriteLine("The screen is not shared any more, or the connection has ended.");
            return 0;
        }
        catch (OperationCanceledException)
        {
            return 0;
        }
        catch (InvalidOperationException e)
        {
            Console.Error.WriteLine(e.Message);
            return 1;
        }
        catch (WebSocketException)
        {
            Console.Error.WriteLine(
                "The server could not be reached, or does not take this code. Get a new code from the page, and try again.");
            return 1;
        }
    }
}
