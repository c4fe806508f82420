using System.Net.WebSockets;
using System.Text.Json;
using HoldCourt.Server.Api;
using HoldCourt.Server.Media;

namespace HoldCourt.Server.Tests;

public class MediaTests(Court court) : IClassFixture<Court>
{
    private sealed record Room(Live Host, Live Guest, Media HostMedia, Media GuestMedia) : IAsyncDisposable
    {
        public async ValueTask DisposeAsync()
        {
            HostMedia.Dispose();
            GuestMedia.Dispose();
            await Host.DisposeAsync();
            await Guest.DisposeAsync();
        }
    }

    private async Task<Room> TwoInside()
    {
        var visitor = await court.Host();
        var opened = await visitor.Post<OpenedSitting>("/api/sessions", new OpenNow("Media"));
        var host = await visitor.Announces(opened, "Odalys");
        var guest = await court.Visitor().Announces(opened, "Guest");
        await Eventually.Holds(() => host.Seats.Count == 2);
        await host.Done(new Admit([guest.Me!.Seat]));
        return new Room(host, guest, await host.Media(), await guest.Media());
    }

    [Fact]
    public async Task Sound_passes_while_the_microphone_is_open_and_not_a_frame_more_whatever_the_browser_sends()
    {
        await using var room = await TwoInside();
        // Frames keep their order: none of these may come before the first that is allowed.
        for (var n = 0; n < 5; n++) await room.GuestMedia.Send(Kind.Audio, room.GuestMedia.Own.Audio, [9]);
        await room.Guest.Done(new OpenMicrophone());
        for (var n = 0; n < 10; n++) await room.GuestMedia.Speak();
        await Eventually.Holds(() => room.HostMedia.Frames(Kind.Audio) == 10);
        room.HostMedia.LastData().ShouldBe([1, 2, 3]);
        room.HostMedia.Messages<Introduced>()
            .ShouldContain(track => track.Seat == room.Guest.Me!.Seat && track.What.Source == "microphone");
        room.GuestMedia.Frames(Kind.Audio).ShouldBe(0, "nobody hears themselves");

        await room.Host.Done(new Mute([room.Guest.Me!.Seat]));
        for (var n = 0; n < 10; n++) await room.GuestMedia.Send(Kind.Audio, room.GuestMedia.Own.Audio, [9]);

        await room.Host.Done(new TakeBack());
        await room.GuestMedia.Speak();
        await Eventually.Holds(() => room.HostMedia.Frames(Kind.Audio) >= 11);
        room.HostMedia.Frames(Kind.Audio).ShouldBe(11, "what was said while muted does not come later either");
        room.HostMedia.Data(Kind.Audio).ShouldAllBe(data => data.Length == 3);
        await room.Host.Done(new Remove([room.Guest.Me.Seat], MayReturn: true));
        await Eventually.Holds(() => room.GuestMedia.Closed is not null, why: "the gone have no socket");
        (await room.Guest.Ask<string?>("MediaTicket")).ShouldBeNull("and get none");
        room.HostMedia.Frames(Kind.Audio).ShouldBe(11);
    }

    [Fact]
    public async Task Who_speaks_is_told_to_those_who_listen_and_in_a_recess_nobody_speaks_for_the_others()
    {
        await using var room = await TwoInside();
        await room.Host.Done(new OpenMicrophone());
        SeatId? Mailed() => room.GuestMedia.Messages<Speaker>().LastOrDefault()?.Seat;
        async Task Talk(Func<bool> until)
        {
            for (var n = 0; n < 250 && !until(); n++)
            {
                await room.HostMedia.Speak();
                await Task.Delay(20);
            }
            until().ShouldBeTrue();
        }
        await Talk(() => Mailed() == room.Host.Me!.Seat);
        await room.Host.Done(new CallRecess("Tea"));
        await Talk(() => Mailed() is null);
        await Task.Delay(300);
        Mailed().ShouldBeNull();
        await room.Host.Done(new Resume());
        await Talk(() => Mailed() == room.Host.Me!.Seat);
    }

    [Fact]
    public async Task Pictures_go_to_those_who_show_them_in_the_layer_they_need_from_a_key_frame_on()
    {
        await using var room = await TwoInside();
        await room.Guest.Done(new TurnCamera(true));
        await room.HostMedia.Wishes((room.Guest.Me!.Seat, 400));
        await Eventually.Holds(() => room.GuestMedia.Wanted is [Kind.Full]);
        room.GuestMedia.Messages<NeedKey>().ShouldContain(message => message.Track == room.GuestMedia.Own.Full);

        await room.GuestMedia.Send(Kind.Full, room.GuestMedia.Own.Full, [9], key: false);
        await room.GuestMedia.Send(Kind.Thumb, room.GuestMedia.Own.Thumb, [9], key: true);
        await room.GuestMedia.Send(Kind.Full, room.GuestMedia.Own.Full, [7], key: true);
        await room.GuestMedia.Send(Kind.Full, room.GuestMedia.Own.Full, [8], key: false);
        await Eventually.Holds(() => room.HostMedia.Frames(Kind.Full) == 2);
        room.HostMedia.Frames(Kind.Thumb).ShouldBe(0);

        await room.HostMedia.Wishes((room.Guest.Me.Seat, 90));
        await Eventually.Holds(() => room.GuestMedia.Wanted is [Kind.Thumb]);
        await room.Host.Done(new CamerasOff([room.Guest.Me.Seat]));
        await Eventually.Holds(() => room.GuestMedia.Wanted is []);
    }

    [Fact]
    public async Task A_browser_that_lost_the_thread_gets_a_key_frame_of_what_it_shows_and_of_nothing_else()
    {
        await using var room = await TwoInside();
        await room.Guest.Done(new TurnCamera(true));
        await room.HostMedia.Wishes((room.Guest.Me!.Seat, 400));
        int Asked(int track) => room.GuestMedia.Messages<NeedKey>().Count(message => message.Track == track);
        await Eventually.Holds(() => Asked(room.GuestMedia.Own.Full) == 1);
        await Task.Delay(1_100);
        await room.HostMedia.Say(JsonSerializer.Serialize<FromBrowser>(new AskForKey(room.GuestMedia.Own.Thumb), CoreJson.Options));
        await room.GuestMedia.Say(JsonSerializer.Serialize<FromBrowser>(new AskForKey(room.GuestMedia.Own.Full), CoreJson.Options));
        for (var n = 0; n < 5; n++)
            await room.HostMedia.Say(JsonSerializer.Serialize<FromBrowser>(new AskForKey(room.GuestMedia.Own.Full), CoreJson.Options));
        await Eventually.Holds(() => Asked(room.GuestMedia.Own.Full) == 3);
        await Task.Delay(600);
        Asked(room.GuestMedia.Own.Full).ShouldBe(3, "asked often within a short while: at once, and once more for the others");
        Asked(room.GuestMedia.Own.Thumb).ShouldBe(0, "nobody is shown that layer");
    }

    [Fact]
    public async Task Frames_of_somebody_elses_track_are_dropped()
    {
        await using var room = await TwoInside();
        await room.Host.Done(new OpenMicrophone());
        await room.Guest.Done(new OpenMicrophone());
        await room.GuestMedia.Send(Kind.Audio, room.HostMedia.Own.Audio, [6]);
        await room.GuestMedia.Send(Kind.Audio, room.GuestMedia.Own.Full, [6]);
        await room.GuestMedia.SendRaw([1, 2, 3]);
        await room.GuestMedia.Say("{\"type\":\"nonsense\"}");
        await room.GuestMedia.Say("no json");
        await room.GuestMedia.Speak();
        await Eventually.Holds(() => room.HostMedia.Frames(Kind.Audio) == 1);
        room.HostMedia.LastData().ShouldBe([1, 2, 3]);
        room.GuestMedia.Closed.ShouldBeNull();
    }

    [Fact]
    public async Task Too_large_a_frame_ends_the_senders_socket_and_nobody_elses()
    {
        await using var room = await TwoInside();
        await room.GuestMedia.SendRaw(new byte[600 * 1024]);
        await Eventually.Holds(() => room.GuestMedia.Closed is not null);
        room.GuestMedia.Closed.ShouldBe(WebSocketCloseStatus.MessageTooBig);
        room.HostMedia.Closed.ShouldBeNull();
    }

    [Fact]
    public async Task A_flood_of_frames_ends_the_senders_socket()
    {
        await using var room = await TwoInside();
        await room.Guest.Done(new OpenMicrophone());
        try
        {
            for (var n = 0; n < 20_000 && room.GuestMedia.Closed is null; n++) await room.GuestMedia.Speak();
        }
        catch (WebSocketException)
        {
            // The server has closed it already.
        }
        await Eventually.Holds(() => room.GuestMedia.Closed is not null);
        room.HostMedia.Closed.ShouldBeNull();
        room.HostMedia.Frames(Kind.Audio).ShouldBeLessThan(1_500);
    }

    [Fact]
    public async Task Who_describes_again_and_again_is_cut_off_and_others_hear_little_of_it()
    {
        await using var room = await TwoInside();
        await room.Guest.Done(new OpenMicrophone());
        await room.GuestMedia.Speak();
        await Eventually.Holds(() => room.HostMedia.Frames(Kind.Audio) == 1);
        try
        {
            for (var n = 0; n < 100 && room.GuestMedia.Closed is null; n++)
                await room.GuestMedia.Describes(new TrackDescription($"microphone {n}", Service.Voice, Layer.None, "opus"));
        }
        catch (WebSocketException)
        {
            // The server has closed it already.
        }
        await Eventually.Holds(() => room.GuestMedia.Closed is not null);
        room.GuestMedia.Closed.ShouldBe(WebSocketCloseStatus.PolicyViolation);
        room.HostMedia.Closed.ShouldBeNull();
    }

    [Fact]
    public async Task A_ticket_that_is_forged_opens_nothing()
    {
        await Should.ThrowAsync<WebSocketException>(() => Media.Open(court.Address, "Zm9yZ2Vk"));
    }
}
