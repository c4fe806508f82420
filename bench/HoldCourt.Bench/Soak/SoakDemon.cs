using System.Diagnostics;
using HoldCourt.Server.Api;
using Microsoft.Data.Sqlite;

namespace HoldCourt.Bench.Soak;

/// <summary>What happens to the house meanwhile: one fault after another, by a seed.</summary>
internal sealed class SoakDemon(SoakHouse house, IReadOnlyList<SoakSitting> sittings, int seed, string? only)
{
    private static readonly string[] _saved = ["chat.csv", "ledger.jsonl", "chat.txt", "ledger/check"];

    private readonly Random _random = new(seed);
    private readonly SortedDictionary<string, int> _done = [];
    private readonly List<double> _whileFrozen = [];

    public IReadOnlyDictionary<string, int> Done => _done;

    /// <summary>How much of the first voice of each sitting each other heard while the disk stood still.</summary>
    public IReadOnlyList<double> WhileFrozen => _whileFrozen;

    /// <summary>In ms since 1970; voices are expected where the last one is long over.</summary>
    public long LastEnded { get; private set; }

    /// <summary>A fault is under way.</summary>
    public bool IsAtWork { get; private set; }

    /// <param name="kills">The server is killed, too.</param>
    public async Task Run(bool kills, DateTime until)
    {
        while (DateTime.UtcNow < until)
        {
            await Task.Delay(TimeSpan.FromSeconds(15 + _random.Next(15)));
            var faults = new (string Name, Func<Task> Does)[]
            {
                ("the server is killed", Kill), ("the server is killed", Kill), ("the server is killed", Kill),
                ("the disk is full for 8 s", Fill), ("the database is locked for 5 s", Lock),
                ("the disk stands still for 6 s", Freeze),
                ("the process stands still for 3 s", Stop), ("thirty connections are cut", Cut),
                ("sixty strangers sign in for 8 s", () => Flood((who, n) =>
                    who.Try("/api/sign-in", new SignIn($"nobody{n}@example.org", "wrong words here")))),
                ("sixty strangers ask how strong passwords are for 8 s", () => Flood((who, n) =>
                    who.Try("/api/password-strength",
                        new StrengthWish($"lantern ferry {n} kettle moss quarry", "Nia", "nia@example.org")))),
                ("twenty browsers stop reading for 10 s", Dawdle), ("all hosts save chat and ledger, twice", Export),
                ("a document of forty pages comes into each sitting", Documents)
            };
            if (only is not null) faults = [.. faults.Where(fault => fault.Name.Contains(only, StringComparison.Ordinal))];
            else if (!kills) faults = faults[3..];
            var (name, does) = faults[_random.Next(faults.Length)];
            Console.Error.WriteLine($"{DateTime.UtcNow:HH:mm:ss} {name}");
            IsAtWork = true;
            try { await does(); }
            catch (Exception e) { Console.Error.WriteLine($"  the fault itself failed: {e.Message}"); }
            IsAtWork = false;
            LastEnded = SoakPerson.Now;
            _done[name] = _done.GetValueOrDefault(name) + 1;
        }
    }

    private Task Kill() => house.Restart();

    private async Task Fill()
    {
        var filler = Path.Combine(house.Folder, "filler");
        var until = DateTime.UtcNow.AddSeconds(8);
        await using (var file = new FileStream(filler, FileMode.Create, FileAccess.Write, FileShare.None, bufferSize: 0))
            while (DateTime.UtcNow < until)
            {
                foreach (var size in new[] { 1 << 20, 4_096, 1 })
                    try
                    {
                        var bytes = new byte[size];
                        while (DateTime.UtcNow < until) file.Write(bytes);
                    }
                    catch (IOException) { /* It is. */ }
                await Task.Delay(50);
            }
        File.Delete(filler);
    }

    private async Task Freeze()
    {
        var before = SoakListening.Of(sittings);
        await house.Freeze(TimeSpan.FromSeconds(6));
        _whileFrozen.AddRange(SoakListening.Shares(sittings, before, SoakPerson.Now - 6_000));
    }

    private async Task Lock()
    {
        await using var db = new SqliteConnection($"Data Source={Path.Combine(house.Folder, "hold-court.db")};Pooling=False");
        await db.OpenAsync();
        await using var command = db.CreateCommand();
        command.CommandText = "PRAGMA busy_timeout = 5000; BEGIN IMMEDIATE";
        await command.ExecuteNonQueryAsync();
        await Task.Delay(5_000);
        command.CommandText = "ROLLBACK";
        await command.ExecuteNonQueryAsync();
    }

    private async Task Stop()
    {
        Signal("STOP");
        await Task.Delay(3_000);
        Signal("CONT");

        void Signal(string name) => Process.Start("kill", ["-" + name, $"{house.Server.Id}"]).WaitForExit();
    }

    private Task Cut() => Task.WhenAll(Enumerable.Range(0, 30).Select(_ => Anybody().Cut()));

    private SoakPerson Anybody()
    {
        var people = sittings[_random.Next(sittings.Count)].People;
        return people[_random.Next(people.Count)];
    }

    private async Task Dawdle()
    {
        var some = Enumerable.Range(0, 20).Select(_ => Anybody()).ToList();
        foreach (var one in some) one.Dawdles = true;
        await Task.Delay(10_000);
        foreach (var one in some) one.Dawdles = false;
    }

    private async Task Flood(Func<CourtAddress, int, Task> ask)
    {
        var until = DateTime.UtcNow.AddSeconds(8);
        await Task.WhenAll(Enumerable.Range(0, 60).Select(async n =>
        {
            var who = new CourtAddress(house.Address);
            while (DateTime.UtcNow < until)
            {
                try { await ask(who, n); }
                catch (HttpRequestException) { /* Turned away. */ }
                await Task.Delay(300);
            }
        }));
    }

    private Task Export() => Task.WhenAll(sittings.SelectMany(sitting => _saved.Select(async file =>
        {
            try { await sitting.Host.Address.Bytes($"/api/sittings/{sitting.Id}/{file}"); }
            catch (HttpRequestException) { /* Busy, as it may say. */ }
        })));

    private Task Documents() => Task.WhenAll(sittings.Select(async (sitting, n) =>
    {
        try
        {
            var text = string.Join("\n\n", Enumerable.Range(0, 400).Select(line => $"Paragraph {line} of {n}, of the weir and the ford."));
            await sitting.Host.Address.Bring(sitting.Id, $"text {n}.txt", System.Text.Encoding.UTF8.GetBytes(text));
        }
        catch (Exception e) when (e is HttpRequestException or InvalidOperationException) { /* The shelf is full, or the disk. */ }
    }));
}
