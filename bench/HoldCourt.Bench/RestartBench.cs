using System.Diagnostics;
using HoldCourt.Core.Admission;
using HoldCourt.Core.Ledger;
using HoldCourt.Core.Orders;
using HoldCourt.Core.People;
using HoldCourt.Core.Sittings;
using HoldCourt.Store;
using HoldCourt.Store.Ledger;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Bench;

/// <summary>From the start of the process until the door of a sitting with 20,000 entries answers.</summary>
internal static class RestartBench
{
    private const int Entries = 20_000, People = 200;

    public static async Task Run()
    {
        var folder = Directory.CreateTempSubdirectory("hold-court-bench-").FullName;
        Started.Server(folder).Dispose();
        var link = await Fill(folder);
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

    private static async Task<string> Fill(string folder)
    {
        var services = new ServiceCollection().AddStore(Path.Combine(folder, "hold-court.db")).BuildServiceProvider();
        await using var db = await services.GetRequiredService<IDbContextFactory<CourtDb>>().CreateDbContextAsync();
        var session = await db.Sessions.FirstAsync(s => s.Extras == "casework");
        await db.Sessions.ExecuteUpdateAsync(set => set.SetProperty(s => s.Extras, (string?)null));
        var record = new SittingRecord { Id = Guid.NewGuid(), SessionId = session.Id, OpenedAt = 1 };
        db.Add(record);
        await db.SaveChangesAsync();

        var (sitting, digest, kept) = (Sitting.Empty, Chain.Start, new List<KeptEntry>());
        void Do(Actor by, Command command)
        {
            var decision = SittingRules.Decide(sitting, command, by, new Instant(kept.Count));
            (var entries, sitting) = SittingRules.Record(sitting, decision.Facts, by, new Instant(kept.Count));
            foreach (var entry in entries)
            {
                kept.Add(Chain.Link(digest, entry));
                digest = kept[^1].Digest;
            }
        }
        Do(Actor.House, new Open("Restart", new PersonKey("account:" + session.OwnerId), new Door(DoorMode.Open), OrderSheet.Usual, []));
        for (var n = 0; n < People; n++) Do(Actor.House, new Announce(new PersonKey($"guest:{n}"), $"Person {n}"));
        for (var n = 0; kept.Count < Entries; n++)
        {
            var seat = Actor.Of(new SeatId(1 + (n / 2 % People)));
            Do(seat, n % 2 == 0 ? new OpenMicrophone() : new CloseMicrophone());
        }
        await using var writer = services.GetRequiredService<EntryWriter>();
        await writer.Append(record.Id, kept);
        return session.Link;
    }
}
