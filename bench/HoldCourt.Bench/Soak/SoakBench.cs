namespace HoldCourt.Bench.Soak;

/// <summary>
/// A house of many sittings in which everything is done at once, while a demon kills the server, fills the disk, locks the database,
/// stops the process, cuts connections and floods; at the end all that was acknowledged is compared with what is read.
/// </summary>
internal static class SoakBench
{
    private static readonly TimeSpan _quiet = TimeSpan.FromSeconds(60);

    /// <param name="only">Words of the faults that are tried; null for all.</param>
    public static async Task Run(double minutes, int seed, string? only = null, int houses = 20, int people = 15)
    {
        using var house = new SoakHouse();
        var oracle = new SoakOracle();
        var sittings = Enumerable.Range(0, houses).Select(n => new SoakSitting(n, house.Address, oracle, people, seed)).ToList();
        var host = new CourtAddress(house.Address);
        await host.SignIn();
        foreach (var (n, sitting) in sittings.Index()) await sitting.Open(host, records: n % 5 == 0);
        Console.Error.WriteLine($"{houses * people} are in");
        foreach (var sitting in sittings) sitting.Begin();
        await Task.Delay(_quiet);
        var start = (house.Megabytes, house.Handles, house.Threads);

        var demon = new SoakDemon(house, sittings, seed, only);
        using var over = new CancellationTokenSource();
        var listening = Listen(sittings, demon, over.Token);
        // Memory and handles are compared within one life of the server, so its last half is one.
        await demon.Run(kills: true, DateTime.UtcNow.AddMinutes(minutes / 2));
        await house.Restart();
        await Task.Delay(_quiet);
        var half = (house.Megabytes, house.Handles, house.Threads);
        await demon.Run(kills: false, DateTime.UtcNow.AddMinutes(minutes / 2));
        await Task.Delay(_quiet);
        var end = (house.Megabytes, house.Handles, house.Threads);
        await over.CancelAsync();
        var shares = await listening;
        foreach (var sitting in sittings) await sitting.Rest();
        var missing = sittings.Sum(sitting => sitting.Missing);

        var stored = house.Written();
        var wrong = oracle.Voices(sittings);
        foreach (var sitting in sittings) wrong.AddRange(await sitting.Check(stored));
        if (house.BrokenOff() is > 0 and var ended) wrong.Add($"{ended} recordings were ended by the server");
        foreach (var sitting in sittings.Where(sitting => sitting.Number % 5 == 0))
            if (await sitting.Host.Wish(new StopRecording()) != Outcome.Done) wrong.Add($"the recording of {sitting.Number} does not end");
        await Task.WhenAll(sittings.Select(sitting => sitting.End()));

        var acts = oracle.Messages.GroupBy(act => act.Outcome).ToDictionary(group => group.Key, group => group.Count());
        var votes = sittings.SelectMany(sitting => sitting.Votes).GroupBy(vote => vote.Outcome)
            .ToDictionary(group => group.Key, group => group.Count());
        Numbers.Head($"{houses} sittings of {people} for {minutes} minutes, seed {seed}");
        foreach (var (what, times) in demon.Done) Numbers.Row(what, $"{times} times");
        Numbers.Row("from a kill until it listens again: median, longest", $"{house.Restarts.Select(one => one.TotalSeconds)
            .Percentile(0.5):F1} s, {house.Restarts.Select(one => one.TotalSeconds).DefaultIfEmpty().Max():F1} s");
        Numbers.Row("messages acknowledged, refused, without an answer", InWords(acts));
        Numbers.Row("votes acknowledged, refused, without an answer", InWords(votes));
        Numbers.Row("files handed out, rounds of rooms, silenced, removed and let in again",
            $"{sittings.Sum(one => one.Handed)}, {sittings.Sum(one => one.Rounds)}, {sittings.Sum(one => one.Silenced)}, "
                + $"{sittings.Sum(one => one.Removed)}");
        Numbers.Row("voices heard while nothing was wrong, of those that should be: median, p5 of a sitting's stretches of 5 s",
            $"{shares.Percentile(0.5):P1}, {shares.Percentile(0.05):P1} ({shares.Count} stretches)");
        Numbers.Row("voices heard while the disk stood still: median, p5",
            $"{demon.WhileFrozen.Percentile(0.5):P1}, {demon.WhileFrozen.Percentile(0.05):P1} ({demon.WhileFrozen.Count})");
        Numbers.Row("voices heard in all, near a move and so not judged",
            $"{sittings.Sum(one => one.People.Sum(by => one.People.Sum(of => by.HeardOf(of.Number)))):N0}, {oracle.Unjudged:N0}");
        Numbers.Row("memory, handles, threads at the start", $"{start.Megabytes:F0} MB, {start.Handles}, {start.Threads}");
        Numbers.Row("  a minute after the last start, half of the time over", $"{half.Megabytes:F0} MB, {half.Handles}, {half.Threads}");
        Numbers.Row("  at the end", $"{end.Megabytes:F0} MB, {end.Handles}, {end.Threads}");
        Numbers.Row("not inside at the end, of all", $"{missing} of {houses * people}");
        foreach (var (reason, times) in oracle.Notes.OrderByDescending(pair => pair.Value))
            Numbers.Row(reason, $"{times}");
        foreach (var (words, times) in house.Failures.OrderByDescending(pair => pair.Value))
            Numbers.Row($"in the log: {words}", $"{times}");
        Numbers.Row("the server's log", house.Log);
        Numbers.Row("what must not be", $"{wrong.Count}");
        foreach (var one in wrong.Take(40)) Console.WriteLine($"  {one}");
    }

    private static string InWords(Dictionary<Outcome, int> counts) =>
        $"{counts.GetValueOrDefault(Outcome.Done):N0}, {counts.GetValueOrDefault(Outcome.Refused):N0}, "
            + $"{counts.GetValueOrDefault(Outcome.Unknown):N0}";

    /// <summary>How much of the first voice of each sitting the others in its place hear, in stretches in which nothing is wrong.</summary>
    private static async Task<List<double>> Listen(IReadOnlyList<SoakSitting> sittings, SoakDemon demon, CancellationToken stop)
    {
        var shares = new List<double>();
        while (!stop.IsCancellationRequested)
        {
            var begun = SoakPerson.Now;
            var before = SoakListening.Of(sittings);
            try { await Task.Delay(5_000, stop); }
            catch (OperationCanceledException) { break; }
            if (!demon.IsAtWork && begun - demon.LastEnded >= 10_000) shares.AddRange(SoakListening.Shares(sittings, before, begun));
        }
        return shares;
    }
}
