using System.Diagnostics;

namespace HoldCourt.Bench;

/// <summary>From the start of the process until the door of a sitting with 20,000 entries answers.</summary>
internal static class RestartBench
{
    private const int Entries = 20_000, People = 200;

    public static async Task Run()
    {
        var folder = Directory.CreateTempSubdirectory("hold-court-bench-").FullName;
        Started.Server(folder).Dispose();
        var link = await BigSitting.Fill(folder, People, 0, Entries);
        var start = Stopwatch.GetTimestamp();
        using var server = Started.Server(folder);
        var listening = Stopwatch.GetElapsedTime(start);
        using var http = new HttpClient();
        var page = await http.GetStringAsync(new Uri(server.Address, $"/api/door/{link}"));
        if (!page.Contains("\"phase\":\"open\"", StringComparison.Ordinal)) throw new InvalidOperationException(page);
        Numbers.Head($"Restart with a sitting of {Entries:N0} entries");
        Numbers.Row("from the start of the process until it listens", $"{listening.TotalSeconds:F2} s");
        Numbers.Row("until the sitting is back", $"{Stopwatch.GetElapsedTime(start).TotalSeconds:F2} s (target: under 3)");
    }
}
