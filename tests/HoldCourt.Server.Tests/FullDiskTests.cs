using System.Diagnostics;
using HoldCourt.Server.Api;
using HoldCourt.Server.Recording.Films;
using HoldCourt.Store.Ledger;
using Microsoft.Extensions.DependencyInjection;
using Xunit.Abstractions;

namespace HoldCourt.Server.Tests;

/// <summary>A real disk that is really full, as far as this machine lets one be made.</summary>
public sealed class FullDiskTests(ITestOutputHelper output) : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("hold-court-small-").FullName;

    private static bool Ran(string program, params string[] words)
    {
        using var process = Process.Start(new ProcessStartInfo(program, words) { RedirectStandardError = true });
        process!.WaitForExit();
        return process.ExitCode == 0;
    }

    private string Filler => Path.Combine(_folder, "filler");

    /// <summary>Until the disk itself says that it is full.</summary>
    private void Fill()
    {
        using var file = new FileStream(Filler, FileMode.Create, FileAccess.Write, FileShare.None, bufferSize: 0);
        foreach (var size in new[] { 65_536, 512, 1 })
            try
            {
                var bytes = new byte[size];
                while (true) file.Write(bytes);
            }
            catch (IOException) { /* It is. */ }
    }

    [Fact]
    public async Task On_a_full_disk_each_wish_is_answered_in_words_a_recording_says_that_it_stands_still_and_all_goes_on_by_itself()
    {
        if (!Ran("mount", "-t", "tmpfs", "-o", "size=96m", "tmpfs", _folder))
        {
            output.WriteLine("No disk of its own can be mounted here: not tried.");
            return;
        }
        var court = await Court.In(_folder, "--Demo:Load", "true", "--Recording:StopAt", "20000000");
        try { await Fills(court); }
        finally { await court.Stop(); }
    }

    private async Task Fills(Court court)
    {
        await using var room = await RecordedRoom.Inside(court);
        await room.Host.Done(new StartRecording());
        await room.GoOn(60);
        Fill();
        var going = room.GoOn(150);
        await Eventually.Holds(() => room.Host.Trouble?.StandsSince is not null, seconds: 15);
        for (var n = 0; n < 4; n++)
        {
            (await Answer(room.Host, new SetOrder(Order.Mark, n % 2 == 0 ? Audience.Everyone : Audience.Bench)))
                .ShouldBe(Reason.NotStored, $"wish {n}");
            await Task.Delay(1_200);
        }
        using var comer = court.Visitor();
        (await comer.Refused(HttpMethod.Post, $"/api/door/{room.Opened.Link}/announce", new AnnounceWish("Jun"))).ShouldBe("notStored");
        (await comer.Refused(HttpMethod.Post, "/api/sign-in", new SignIn(Demo.DemoData.Email, Demo.DemoData.Password)))
            .ShouldBe("notStored");
        await going;

        File.Delete(Filler);
        await Eventually.Succeeds(async () =>
        {
            if (room.Host.IsClosed) await room.Host.Again();
            await room.Host.Done(new SendNotice("There is room"));
        }, seconds: 30);
        await Eventually.Holds(() => room.Host.Trouble?.StandsSince is null, seconds: 15);
        (await comer.Post($"/api/door/{room.Opened.Link}/announce", new AnnounceWish("Jun"))).EnsureSuccessStatusCode();
        await Eventually.Holds(() => room.Host.Sitting!.Recording!.Phase == RecordingPhase.Running);
        await room.GoOn(100);
        await Eventually.Succeeds(async () =>
        {
            if (room.Host.IsClosed) await room.Host.Again();
            await room.Host.Done(new StopRecording());
        });
        var stored = (await court.Services.GetRequiredService<EntryReader>().Read(room.Sitting)).ToList();
        Chain.FirstBreak(stored).ShouldBeNull();
        stored.Select(entry => entry.Read().Fact).OfType<RecordingInterrupted>().ShouldNotBeEmpty("what is missing is noted");
        var recording = await RecordedRoom.Ended(court, room.Sitting);
        var score = await court.Services.GetRequiredService<FilmWorks>().ScoreOf(recording);
        FilmChapters.Of(score, Timeline.Of(score.Stretches), "begins", "goes on").Select(chapter => chapter.Title)
            .ShouldContain("goes on", "the gap is told in the film's chapters");
    }

    /// <summary>A page whose line ended under a wish takes it up again, and asks once more.</summary>
    private static async Task<Reason?> Answer(Live live, SeatCommand wish)
    {
        for (var tries = 0; ; tries++)
            try
            {
                if (live.IsClosed) await live.Again();
                return (await live.Do(wish))?.Reason;
            }
            catch (Exception e) when (tries < 5 && e is TaskCanceledException or InvalidOperationException) { await Task.Delay(500); }
    }

    public void Dispose()
    {
        Ran("umount", "-l", _folder);
        if (Directory.Exists(_folder)) Directory.Delete(_folder, recursive: true);
    }
}
