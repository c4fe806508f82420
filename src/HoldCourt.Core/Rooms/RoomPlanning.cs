using System.Collections.Immutable;

namespace HoldCourt.Core.Rooms;

/// <summary>What has been worked out of a form for the people who are here.</summary>
/// <param name="People">Numbers of the seats that it was worked out for.</param>
public sealed record WorkedOut(
    RoomForm Form, ImmutableArray<int> People, RoomPlan Plan, ImmutableArray<ImmutableArray<int>> Leads, ImmutableArray<string> Unknown);

/// <summary>Between people and their names, and the numbers of which <see cref="RoomPlanner"/> knows.</summary>
public static class RoomPlanning
{
    /// <summary>Those who are planned: everybody inside but the bench, which stays in the hall.</summary>
    /// <param name="byHand">Those who were taken out of the plan are in none.</param>
    public static ImmutableArray<int> PeopleOf(Sitting sitting, ImmutableSortedDictionary<int, int>? byHand = null) =>
    [
        .. sitting.Seats.Where(Powers.BelongsInRooms).Select(seat => seat.Id.Number)
            .Where(number => byHand?.GetValueOrDefault(number) != RoomDraft.Out)
    ];

    /// <summary>Works out who goes where. Takes up to a second for a thousand people; needs nothing but its arguments.</summary>
    /// <param name="byHand">Rooms from 0 that were chosen while planning, by the seats' numbers.</param>
    public static WorkedOut WorkOut(Sitting sitting, RoomForm form, ImmutableSortedDictionary<int, int> byHand)
    {
        var people = PeopleOf(sitting, byHand);
        var (wishes, leads, unknown) = WishesOf(sitting, form, people, byHand);
        return new WorkedOut(form, people, RoomPlanner.Plan(wishes), leads, unknown);
    }

    /// <summary>The plan, or the rooms that are open, with everybody by name who is in each; null where there are none.</summary>
    public static RoomForm? ByName(Sitting sitting)
    {
        var book = sitting.Rooms;
        string NameOf(int seat) => sitting.Seats[new SeatId(seat)].Name;
        if (book.Draft is { } draft)
        {
            ImmutableArray<string> Unmet(ImmutableArray<string> names) =>
                [.. names.Where(name => draft.Unknown.Contains(name, StringComparer.OrdinalIgnoreCase))];
            return draft.Form with
            {
                Rooms =
                [
                    .. draft.Form.Rooms.Select((room, at) => room with
                    {
                        Leads = [.. draft.Leads[at].Select(NameOf), .. Unmet(room.Leads)],
                        People = [.. draft.RoomOf.Where(pair => pair.Value == at).Select(pair => NameOf(pair.Key)), .. Unmet(room.People)]
                    })
                ]
            };
        }
        return book is not { Open: not [], Form: { } form } ? null : form with
        {
            Rooms =
            [
                .. book.Open.Select(room => new RoomSpec(
                    room.Name, room.Task, [.. room.Leads.Select(lead => NameOf(lead.Number))],
                    [.. book.Assigned.Where(pair => pair.Value == room.Number).Select(pair => NameOf(pair.Key))],
                    form.Rooms.ElementAtOrDefault(room.Ordinal - 1)?.Shows))
            ]
        };
    }

    /// <summary>The plan as it is kept.</summary>
    internal static RoomDraft DraftOf(WorkedOut done, ImmutableSortedDictionary<int, int> byHand, int number) => new(
        number, done.Form,
        done.People.Zip(done.Plan.RoomOf).ToImmutableSortedDictionary(pair => pair.First, pair => pair.Second), byHand, done.Leads,
        done.Plan.Repeated, done.Plan.Least,
        [.. done.Plan.Clashes.Select(clash => new RoomClash(clash.Kind, [.. clash.People.Select(one => new SeatId(done.People[one]))]))],
        done.Unknown);

    /// <summary>The number of the open room where somebody belongs who is late; null to wait in the hall.</summary>
    internal static int? RoomFor(Sitting sitting, Seat late)
    {
        var book = sitting.Rooms;
        if (book.Assigned.TryGetValue(late.Id.Number, out var own) && book.Find(own) is not null) return own;
        if (book is { Open: [] } or { Form: not { Late: not LateRule.Wait } } || book.LeftOut.Contains(late.Id.Number)) return null;
        ImmutableArray<int> people = [.. book.Assigned.Keys.Where(number => number != late.Id.Number), late.Id.Number];
        ImmutableArray<int?> roomOf =
        [
            .. people.Select(number => book.Assigned.TryGetValue(number, out var room)
                && book.Open.ToList().FindIndex(one => one.Number == room) is var at and >= 0 ? at : (int?)null)
        ];
        var form = book.Form! with { Spread = book.Form.Late == LateRule.OwnGroup ? Spread.ByGroup : Spread.Mixed, NotAgain = false };
        // A room that was closed by itself is none to be put into.
        var (wishes, _, _) = WishesOf(sitting, form, people, ImmutableSortedDictionary<int, int>.Empty);
        var open = book.Open.Length;
        var at = RoomPlanner.PlaceLate(
            wishes with { Rooms = open, Fixed = [.. wishes.Fixed.Select(room => IndexOfOpen(book, room))] },
            roomOf.SetItem(people.Length - 1, null));
        return book.Open[at].Number;
    }

    /// <summary>Which of the open rooms is the one of that place in the form.</summary>
    private static int? IndexOfOpen(RoomBook book, int? wished) =>
        wished is { } ordinal && book.Open.ToList().FindIndex(room => room.Ordinal == ordinal + 1) is var at and >= 0 ? at : null;

    private static (RoomWishes Wishes, ImmutableArray<ImmutableArray<int>> Leads, ImmutableArray<string> Unknown) WishesOf(
        Sitting sitting, RoomForm form, ImmutableArray<int> people, ImmutableSortedDictionary<int, int> byHand)
    {
        var at = people.Select((number, index) => (number, index)).ToDictionary(pair => pair.number, pair => pair.index);
        var unknown = new List<string>();
        var known = new Dictionary<string, int?>(StringComparer.OrdinalIgnoreCase);
        int? Find(string name)
        {
            if (known.TryGetValue(name, out var before)) return before;
            var found = Names.Of(sitting.Seats).Find(name, seat => at.ContainsKey(seat.Id.Number));
            if (found.Length != 1) unknown.Add(name);
            return known[name] = found is [var only] ? at[only.Id.Number] : null;
        }
        ImmutableArray<int> All(ImmutableArray<string> names) => [.. names.Select(Find).OfType<int>().Distinct()];
        var chosen = new int?[people.Length];
        var leads = ImmutableArray.CreateBuilder<ImmutableArray<int>>();
        for (var room = 0; room < form.Rooms.Length; room++)
        {
            var heads = All(form.Rooms[room].Leads);
            foreach (var one in heads.Concat(All(form.Rooms[room].People))) chosen[one] ??= room;
            leads.Add([.. heads.Select(one => people[one])]);
        }
        ImmutableArray<string?> groups =
            [.. people.Select(number => sitting.Docket[sitting.Seats[new SeatId(number)].Recognition.Line]?.Group?.Trim())];
        // A room that is called like a group is that group's.
        if (form.Spread == Spread.ByGroup)
            for (var one = 0; one < people.Length; one++)
                chosen[one] ??= form.Rooms.ToList().FindIndex(room => room.Name.Length > 0
                    && room.Name.Equals(groups[one], StringComparison.OrdinalIgnoreCase)) is var own and >= 0 ? own : null;
        foreach (var (number, room) in byHand)
            if (at.TryGetValue(number, out var one) && room >= 0 && room < form.Rooms.Length) chosen[one] = room;
        var wishes = new RoomWishes(
            form.Rooms.Length,
            groups,
            [.. chosen],
            [.. form.Together.Select(set => All(set.Names)).Where(set => set.Length > 1)],
            [.. form.Apart.SelectMany(set => PairsOf(All(set.Names))).Distinct()],
            form.NotAgain
                ? [.. sitting.Rooms.Rounds.Select(round => people.Select(number =>
                    round.TryGetValue(number, out var room) ? room : (int?)null).ToImmutableArray())]
                : [],
            form.Spread, form.Seed);
        return (wishes, leads.DrainToImmutable(), [.. unknown.Distinct(StringComparer.OrdinalIgnoreCase)]);
    }

    private static IEnumerable<(int One, int Other)> PairsOf(ImmutableArray<int> people) =>
        people.SelectMany((one, at) => people.Skip(at + 1).Select(other => one < other ? (one, other) : (other, one)));
}
