using System.Diagnostics;
using System.Text;
using System.Text.Json;
using HoldCourt.Server.Planning;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Bench;

/// <summary>Who is who at the door, an import, and Today, each with as much as a large organization has.</summary>
internal static class PlanningBench
{
    private const int Lines = 2_000, Waiting = 500, Contacts = 5_000, Sessions = 2_000;

    public static async Task Run()
    {
        Match();
        var folder = Directory.CreateTempSubdirectory("hold-court-bench-").FullName;
        Started.Server(folder).Dispose();
        await Fill(folder);
        using var server = Started.Server(folder);
        var host = new CourtAddress(server.Address);
        await host.SignIn();
        await Today(host);
        await Import(host, folder);
    }

    private static void Match()
    {
        var names = Names(Lines);
        var random = new Random(7);
        var typed = Enumerable.Range(0, Waiting).Select(_ => Mistyped(names[random.Next(Lines)], random)).ToList();
        var (times, judging, building, bare) = (new List<double>(), new List<double>(), new List<double>(), new List<double>());
        for (var round = 0; round < 32; round++)
        {
            var start = Stopwatch.GetTimestamp();
            var docket = new DocketList([.. names.Select(name => new DocketLine(name))]);
            _ = docket.Matcher;
            building.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
            start = Stopwatch.GetTimestamp();
            var looks = typed.ConvertAll(name => Recognizer.Look(docket, name, null, new Instant(0)));
            judging.Add(Stopwatch.GetTimestamp());
            _ = Recognizer.Judge(docket, looks, new HashSet<int>());
            judging[^1] = Stopwatch.GetElapsedTime((long)judging[^1]).TotalMilliseconds;
            times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
            start = Stopwatch.GetTimestamp();
            foreach (var name in typed) _ = names.Count(other => string.Equals(other, name, StringComparison.OrdinalIgnoreCase));
            bare.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
        }
        Numbers.Head($"{Waiting} who wait against a docket of {Lines:N0}");
        Numbers.Row("all looked up and judged: median, longest",
            $"{times[12..].Percentile(0.5):F0} ms, {times[12..].Max():F0} ms (target: under 100)");
        Numbers.Row("of that judging, as each newcomer causes it: median", $"{judging[12..].Percentile(0.5):F0} ms");
        Numbers.Row("making the index of the docket, once: median", $"{building[12..].Percentile(0.5):F0} ms");
        Numbers.Row("over comparing each name for plain equality with each line",
            $"{times[12..].Percentile(0.5) / bare[12..].Percentile(0.5):F1}");
    }

    private static async Task Today(CourtAddress host)
    {
        var (ours, plain) = (new List<double>(), new List<double>());
        for (var n = 0; n < 30; n++)
        {
            ours.Add(await Timed(() => host.Bytes("/api/sessions")));
            plain.Add(await Timed(() => host.Bytes("/api/me")));
        }
        Numbers.Head($"Today with {Sessions:N0} sessions");
        Numbers.Row("the whole list over HTTP: median, longest",
            $"{ours[5..].Percentile(0.5):F0} ms, {ours[5..].Max():F0} ms (target: under 150)");
        Numbers.Row("the first time after a start", $"{ours[0]:F0} ms");
        Numbers.Row("the smallest answer there is: median", $"{plain[5..].Percentile(0.5):F1} ms");
    }

    private static async Task Import(CourtAddress host, string folder)
    {
        var file = ContactTable.WriteCsv(Names(Contacts)
            .Select((name, n) => new ContactRow(0, name, $"p{n}@larkmoor.example.org", null, ["wardens"])));
        var look = await Timed(() => host.Send("/api/contacts/import/look", file));
        var import = await Timed(() => host.Send("/api/contacts/import", file));
        var again = await Timed(() => host.Send("/api/contacts/import", file));
        var bare = await Timed(() => Insert(folder));
        Numbers.Head($"{Contacts:N0} contacts from a CSV file of {file.Length / 1000} kB");
        Numbers.Row("preview", $"{look / 1000:F2} s");
        Numbers.Row("import", $"{import / 1000:F2} s (target: under 3)");
        Numbers.Row("the same file again, which changes nothing", $"{again / 1000:F2} s");
        Numbers.Row("import over inserting as many rows and nothing else", $"{import / bare:F1}");
    }

    private static async Task<double> Timed(Func<Task> act)
    {
        var start = Stopwatch.GetTimestamp();
        await act();
        return Stopwatch.GetElapsedTime(start).TotalMilliseconds;
    }

    private static async Task Fill(string folder)
    {
        await using var db = await Db(folder);
        var owner = (await db.Set<Account>().FirstAsync()).Id;
        var orders = JsonSerializer.Serialize(StandingOrders.Usual, CoreJson.Options);
        var start = DateTimeOffset.UtcNow.ToUnixTimeMilliseconds();
        for (var n = 0; n < Sessions; n++)
        {
            var kind = (SessionKind)(n % 3);
            var session = new Session
            {
                OwnerId = owner,
                Title = $"Session {n}",
                Link = $"bench-{n:D16}",
                Orders = orders,
                Kind = kind,
                CreatedAt = start,
                Minutes = 60,
                Zone = "Europe/Berlin"
            };
            if (kind != SessionKind.Standing) session.StartsAt = start - (n * 3_600_000L);
            if (kind == SessionKind.Recurring) session.Rule = "FREQ=WEEKLY;BYDAY=MO,TH";
            for (var line = 0; line < 3; line++)
                session.Docket.Add(new DocketRecord { Name = $"Person {line}", Token = $"bench-{n:D8}-{line:D7}" });
            db.Add(session);
        }
        await db.SaveChangesAsync();
    }

    private static async Task Insert(string folder)
    {
        await using var db = await Db(folder);
        var owner = (await db.Set<Account>().FirstAsync()).Id;
        db.AddRange(Enumerable.Range(0, Contacts)
            .Select(n => new Contact { OwnerId = owner, Name = $"Bare {n}", Email = $"b{n}@larkmoor.example.org", Groups = "[]" }));
        await db.SaveChangesAsync();
    }

    internal static Task<CourtDb> Db(string folder) =>
        new ServiceCollection().AddStore(Path.Combine(folder, "hold-court.db")).BuildServiceProvider()
            .GetRequiredService<IDbContextFactory<CourtDb>>().CreateDbContextAsync();

    /// <summary>Different made-up names, many of which share a part.</summary>
    internal static List<string> Names(int count)
    {
        string[] first = ["Ana", "Bel", "Cor", "Dar", "Eli", "Fen", "Gis", "Hal", "Ina", "Jor", "Kel", "Lio", "Mar", "Nor", "Oda", "Per",
            "Qui", "Ros", "Sel", "Tam"];
        string[] second = ["a", "en", "is", "ko", "lia", "mir", "no", "ra", "sten", "vi"];
        string[] third = ["Ash", "Brook", "Cold", "Dun", "Elm", "Fair", "Glen", "Holm", "Ivy", "Kirk", "Long", "Mill", "North", "Oak",
            "Pend", "Quarry", "Rush", "Stan", "Thorn", "Weir"];
        string[] fourth = ["dale", "field", "gate", "ham", "lock", "mere", "stead", "ton", "wick", "worth"];
        return [.. Enumerable.Range(0, count).Select(n =>
            $"{first[n % 20]}{second[n / 20 % 10]} "
                + $"{third[(n * 7 / 3) % 20]}{fourth[n / 200 % 10]}{(n >= 2_000 ? $"-{third[n / 2_000]}" : "")}")];
    }

    internal static string Mistyped(string name, Random random)
    {
        var letters = new StringBuilder(name);
        var at = random.Next(1, name.Length - 1);
        switch (random.Next(4))
        {
            case 0: (letters[at], letters[at - 1]) = (letters[at - 1], letters[at]); break;
            case 1: letters.Remove(at, 1); break;
            case 2: letters.Insert(at, 'e'); break;
            default: break;
        }
        return letters.ToString();
    }
}
