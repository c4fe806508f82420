using System.Text.Json;
using HoldCourt.Server.Api;

namespace HoldCourt.Server.Tests;

/// <summary>Three on the bench and three attendees, all at once, over real connections.</summary>
public class ConcurrencyTests
{
    /// <summary>Under the burst that a connection may send, so that nothing is refused for haste.</summary>
    private const int EachDoes = 50;

    private static readonly Order[] _orders = [Order.Speak, Order.ShowCamera, Order.React, Order.SeePeople, Order.WriteToAll];
    private static readonly State?[] _states = [null, State.Following, State.CannotHear];

    private static T One<T>(Random random, IReadOnlyList<T> of) => of[random.Next(of.Count)];

    /// <summary>Roles and places change among the attendees alone, so that the bench stays one.</summary>
    private static SeatCommand OfTheBench(Random random, IReadOnlyList<SeatId> all)
    {
        SeatId[] attendees = [.. all.Skip(3)];
        SeatId[] some = [.. all.Where(_ => random.Next(3) == 0), One(random, all)];
        return random.Next(18) switch
        {
            0 => new Mute([.. some.Distinct()]),
            1 => new MuteAll(random.Next(2) == 0),
            2 => new AskToUnmute([.. some.Distinct()]),
            3 => new GiveRole([One(random, attendees)], One(random, [Role.Attendee, Role.Presenter])),
            4 => new SendToLobby([One(random, attendees)]),
            5 or 6 => new Admit([.. attendees]),
            7 => new SetOrder(One(random, _orders), One(random, [Audience.Everyone, Audience.Presenters, Audience.Bench])),
            8 => new Except([One(random, attendees)], One(random, _orders), One<bool?>(random, [true, false, null])),
            9 => new GiveFloor(One(random, all), random.Next(2) == 0 ? 60 : null),
            10 => new TakeFloor(),
            11 => new PutInFront([One(random, all)]),
            12 => new CamerasOff([.. some.Distinct()]),
            13 => new LowerHands([.. some.Distinct()]),
            14 => new ClearStates(),
            15 => random.Next(8) == 0 ? new CallRecess("Tea") : new Resume(),
            _ => new TakeBack()
        };
    }

    private static SeatCommand OfAnAttendee(Random random) => random.Next(8) switch
    {
        0 or 1 => new OpenMicrophone(),
        2 => new CloseMicrophone(),
        3 => new TurnCamera(random.Next(2) == 0),
        4 => new RaiseHand(),
        5 => random.Next(2) == 0 ? new LowerHand() : new YieldFloor(),
        6 => new AnswerUnmute(true),
        _ => new SetState(One(random, _states))
    };

    [Theory]
    [InlineData(11)]
    [InlineData(12)]
    public async Task Whatever_three_on_the_bench_and_three_attendees_do_at_once_all_hold_one_truth_and_the_ledger_tells_it(int seed)
    {
        var court = new Court();
        await court.InitializeAsync();
        string[] names = ["Ilse", "Teodor", "Nia", "Jun", "Bo"];
        var browsers = names.Select(_ => court.Visitor()).Prepend(await court.Host()).ToList();
        var opened = await browsers[0].Post<OpenedSitting>("/api/sessions", new OpenNow("All at once"));
        var lives = new List<Live>();
        foreach (var (browser, name) in browsers.Zip(names.Prepend("Odalys"))) lives.Add(await browser.Announces(opened, name));
        var host = lives[0];
        SeatId[] seats = [.. lives.Select(live => live.Me!.Seat)];
        await host.Done(new Admit([.. seats[1..3]], Role.Deputy));
        await host.Done(new Admit([.. seats[3..]]));
        await Eventually.Holds(() => lives.TrueForAll(live => live.Me!.Place == Place.Seated));

        var refused = await Task.WhenAll(lives.Select((live, at) => Task.Run(async () =>
        {
            var random = new Random(seed * 100 + at);
            var reasons = new List<Reason>();
            for (var n = 0; n < EachDoes; n++)
                if (await live.Do(at < 3 ? OfTheBench(random, seats) : OfAnAttendee(random)) is { } refusal) reasons.Add(refusal.Reason);
            return reasons;
        })));

        refused.SelectMany(reasons => reasons).ShouldNotContain(Reason.TooFast);
        lives.ShouldAllBe(live => !live.Missed);
        foreach (var live in lives)
        {
            var whole = (await live.Ask<WholeView?>("Whole"))!;
            await Eventually.Holds(() => live.Version >= whole.V || Same(live, whole));
            Same(live, whole).ShouldBeTrue(
                $"{live.Me!.Role} holds {Held(live.Sitting!, live.Seats.Values)}\nbut it is {Held(whole.Sitting, whole.Seats)}");
        }
        var check = await browsers[0].Get<LedgerCheckRow>($"/api/sittings/{opened.Sitting}/ledger/check");
        check.FirstBreak.ShouldBeNull();
        check.Entries.ShouldBeGreaterThan(lives.Count * EachDoes / 4, "too much was tried in vain");

        var before = Lasting(host);
        foreach (var live in lives) await live.DisposeAsync();
        await court.Restart();
        await using (var back = await browsers[0].Connects(opened)) Lasting(back).ShouldBe(before);
        await court.DisposeAsync();
    }

    private static string Held(SittingRow sitting, IEnumerable<SeatRow> seats) =>
        JsonSerializer.Serialize(new { sitting, seats = seats.OrderBy(row => row.Id.Number) }, CoreJson.Options);

    private static bool Same(Live live, WholeView whole) => Held(live.Sitting!, live.Seats.Values) == Held(whole.Sitting, whole.Seats);

    /// <summary>What a restart does not change.</summary>
    private static string Lasting(Live live) => JsonSerializer.Serialize(new
    {
        live.Sitting!.Orders,
        live.Sitting.Session!.Phase,
        live.Sitting.Session!.Host,
        live.Sitting.Floor!.Turn,
        live.Sitting.Hands!.Queue,
        live.Sitting.Picture,
        Seats = live.Seats.Values.OrderBy(row => row.Id.Number)
            .Select(row => new
            {
                row.Id,
                row.Name,
                row.Role,
                row.Place,
                row.Microphone,
                row.Hand,
                row.State,
                row.Note!.Given,
                row.Note.Taken
            })
    }, CoreJson.Options);
}
