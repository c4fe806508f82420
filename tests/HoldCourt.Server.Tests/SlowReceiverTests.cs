using HoldCourt.Server.Api;

namespace HoldCourt.Server.Tests;

/// <summary>What is measured against the clock runs after everything else, alone.</summary>
[CollectionDefinition(nameof(Alone), DisableParallelization = true)]
public sealed class Alone;

[Collection(nameof(Alone))]
public class SlowReceiverTests(Court court) : IClassFixture<Court>
{
    /// <summary>Large enough that what the kernel keeps for a socket is full within seconds.</summary>
    private static readonly byte[] _picture = new byte[30_000];

    [Fact]
    public async Task Who_reads_too_slowly_loses_pictures_up_to_a_key_frame_but_no_sound_and_holds_up_nobody()
    {
        var visitor = await court.Host();
        var opened = await visitor.Post<OpenedSitting>("/api/sessions", new OpenNow("Slow"));
        await using var host = await visitor.Announces(opened, "Odalys");
        await using var slow = await court.Visitor().Announces(opened, "Slow");
        await using var quick = await court.Visitor().Announces(opened, "Quick");
        await Eventually.Holds(() => host.Seats.Count == 3);
        await host.Done(new Admit([slow.Me!.Seat, quick.Me!.Seat]));
        await host.Done(new TurnCamera(true));
        await host.Done(new OpenMicrophone());
        using var sender = await host.Media();
        using var slowly = await slow.Media(smallBuffer: true);
        using var quickly = await quick.Media();
        foreach (var media in new[] { slowly, quickly }) await media.Wishes((host.Me!.Seat, 400));
        await Eventually.Holds(() => sender.Wanted.Contains(Kind.Full));
        await SendSecond(sender, key: true);
        await Eventually.Holds(() => slowly.Frames(Kind.Full) > 0 && quickly.Frames(Kind.Full) > 0 && quickly.Frames(Kind.Audio) == 25);

        slowly.Pause();
        var (before, sounds) = (quickly.Frames(Kind.Full), quickly.Frames(Kind.Audio));
        for (var second = 0; second < 8; second++) await SendSecond(sender, key: second % 2 == 0);
        // On a machine that stands still for a while even the quick one is behind for a moment.
        await Eventually.Holds(() => quickly.Frames(Kind.Full) >= before + 150,
            why: $"nothing holds up the quick one: {quickly.Frames(Kind.Full)} of {before} + 200");
        await Eventually.Holds(() => quickly.Frames(Kind.Audio) == sounds + 200);

        await Eventually.Holds(() => host.Slow.Contains(slow.Me!.Seat), seconds: 20,
            why: "the bench is told of a browser that does not read");
        slowly.Resume();
        await Eventually.Holds(() => slowly.Frames(Kind.Audio) == 225, why: "sound is not dropped");
        // It gets small pictures until it has kept up for a while, and then goes on with the newest key frame.
        var resumed = slowly.Frames(Kind.Full);
        for (var second = 0; second < 30 && slowly.Sequences(Kind.Full).LastOrDefault().Sequence < 2 * 9 * 25; second++)
            await SendSecond(sender, key: true);
        slowly.Frames(Kind.Full).ShouldBeGreaterThan(resumed);
        var (got, all) = (slowly.Sequences(Kind.Full), quickly.Sequences(Kind.Full));
        got.Count.ShouldBeLessThan(all.Count - 50, "old pictures were dropped rather than kept for later");
        foreach (var frames in new[] { got, all })
            foreach (var (earlier, later) in frames.Zip(frames.Skip(1)))
                if (later.Sequence != earlier.Sequence + 2) later.IsKey.ShouldBeTrue("what follows a gap can be decoded by itself");
    }

    /// <summary>A picture and a sound in turn, so that a picture's number is two more than the one before.</summary>
    private static async Task SendSecond(Media sender, bool key)
    {
        for (var n = 0; n < 25; n++)
        {
            await sender.Send(Kind.Full, sender.Own.Full, _picture, key: key && n == 0);
            await sender.Speak();
            await Task.Delay(38);
        }
    }
}
