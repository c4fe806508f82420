using HoldCourt.Server.Exhibits;
using HoldCourt.Store.Files;

namespace HoldCourt.Server.Tests;

/// <summary>One person's documents keep nobody else's waiting.</summary>
public class PageTurnsTests
{
    private static readonly Guid _one = Guid.NewGuid(), _two = Guid.NewGuid();

    private static FileRecord File(Guid sitting, int seat) =>
        new() { Id = Guid.NewGuid(), SittingId = sitting, Seat = seat, Name = "a.pdf", Size = 1 };

    private static Task<IDisposable> Waits(PageTurns turns, FileRecord file, Wanted how = Wanted.Now, bool converts = false) =>
        turns.Wait(file, how, converts, CancellationToken.None);

    [Fact]
    public async Task Nobody_has_all_workers_and_sittings_and_people_take_turns()
    {
        var turns = new PageTurns(3, TimeProvider.System);
        var greedy = Enumerable.Range(0, 20).Select(_ => Waits(turns, File(_one, 1))).ToList();
        greedy.Count(one => one.IsCompleted).ShouldBe(2, "one worker stays for others");
        using (await Waits(turns, File(_two, 1)).WaitAsync(TimeSpan.FromSeconds(1))) { }
        var third = await Waits(turns, File(_two, 2)).WaitAsync(TimeSpan.FromSeconds(1));
        var (neighbour, stranger) = (Waits(turns, File(_one, 2)), Waits(turns, File(_two, 3), Wanted.Ahead));
        (await greedy[0]).Dispose();
        var next = await neighbour.WaitAsync(TimeSpan.FromSeconds(1));
        greedy[2].IsCompleted.ShouldBeFalse("a neighbour comes before all that one person has asked for");
        stranger.IsCompleted.ShouldBeFalse("what nobody looks at comes last");
        next.Dispose();
        (await greedy[1]).Dispose();
        third.Dispose();
        foreach (var one in greedy) (await one.WaitAsync(TimeSpan.FromSeconds(1))).Dispose();
        (await stranger.WaitAsync(TimeSpan.FromSeconds(1))).Dispose();
    }

    /// <summary>Seen: two files with millions of paragraphs, and nobody's PDF got a page in two minutes.</summary>
    [Fact]
    public async Task Office_programs_leave_a_worker_and_whose_file_ran_out_of_time_waits_for_all_others()
    {
        var turns = new PageTurns(3, TimeProvider.System);
        var slow = File(_one, 1);
        var first = await Waits(turns, slow, Wanted.First, converts: true);
        using var second = await Waits(turns, File(_two, 1), Wanted.First, converts: true);
        var another = Waits(turns, File(_two, 2), Wanted.First, converts: true);
        another.IsCompleted.ShouldBeFalse("two office programs at once");
        using (await Waits(turns, File(_two, 3)).WaitAsync(TimeSpan.FromSeconds(1))) { }
        turns.RanOut(slow);
        var again = Waits(turns, File(_one, 1));
        again.IsCompleted.ShouldBeFalse("the last free worker is not theirs");
        first.Dispose();
        await another.WaitAsync(TimeSpan.FromSeconds(1));
        var pdf = await Waits(turns, File(_one, 2)).WaitAsync(TimeSpan.FromSeconds(1));
        again.IsCompleted.ShouldBeFalse();
        pdf.Dispose();
        (await another).Dispose();
        (await again.WaitAsync(TimeSpan.FromSeconds(1))).Dispose();
        using var gone = new CancellationTokenSource();
        var (a, b) = (await Waits(turns, File(_one, 5)), await Waits(turns, File(_one, 6)));
        var cancelled = turns.Wait(File(_one, 7), Wanted.Now, false, gone.Token);
        await gone.CancelAsync();
        await Should.ThrowAsync<OperationCanceledException>(() => cancelled);
        a.Dispose();
        b.Dispose();
    }
}
