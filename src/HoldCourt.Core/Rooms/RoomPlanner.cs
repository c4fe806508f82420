using System.Collections.Immutable;

namespace HoldCourt.Core.Rooms;

/// <summary>
/// Plans rooms: those who are to be together are one unit from the start; units are put where there is room, and then exchanged by
/// simulated annealing (Kirkpatrick, Gelatt and Vecchi, 1983) until nobody meets again who need not, or long enough. Depends on
/// its wishes alone, the seed among them.
/// </summary>
public static class RoomPlanner
{
    /// <summary>What a pair costs in one room: of one group, met once before, to be apart.</summary>
    private const int OfOneGroup = 1, MetBefore = 32, ToBeApart = 16_384;

    /// <summary>How much is looked at, at most: a plan takes well under a second, whatever the rooms' size.</summary>
    private const int MostLooks = 5_000_000, MostTries = 800_000;

    /// <summary>It is heated up so often; each time it may settle otherwise.</summary>
    private const int Heats = 4;

    /// <exception cref="ArgumentException">A room or a person that there is not, or lists of different lengths.</exception>
    public static RoomPlan Plan(RoomWishes wishes)
    {
        Check(wishes);
        var (units, clashes) = Units(wishes);
        var table = new Seating(wishes, units);
        table.PutInPlace();
        table.Improve();
        var rooms = table.RoomOf;
        clashes.AddRange(wishes.Apart.Where(pair => rooms[pair.One] == rooms[pair.Other]).Select(Sorted)
            .Where(pair => !clashes.Exists(known => known.People.SequenceEqual(pair)))
            .Select(pair => new Clash(ClashKind.NotApart, pair)));
        return new RoomPlan(rooms, Repeated(wishes, rooms), Least(wishes), [.. clashes]);
    }

    /// <summary>
    /// Where somebody goes who comes late: to those they are to be with, not to those they are to be apart from, and otherwise into the
    /// smallest room, of their group's where rooms go by group.
    /// </summary>
    /// <param name="roomOf">For each person; null for whoever is in none. The last one is who comes.</param>
    public static int PlaceLate(RoomWishes wishes, ImmutableArray<int?> roomOf)
    {
        var late = roomOf.Length - 1;
        if (wishes.Fixed[late] is { } wished) return wished;
        var with = wishes.Together.Where(set => set.Contains(late)).SelectMany(set => set)
            .Select(one => roomOf[one]).OfType<int>().ToHashSet();
        var without = wishes.Apart.Where(pair => pair.One == late || pair.Other == late)
            .Select(pair => roomOf[pair.One == late ? pair.Other : pair.One]).OfType<int>().ToHashSet();
        var size = Enumerable.Range(0, wishes.Rooms).Select(room => roomOf.Count(one => one == room)).ToArray();
        var own = Enumerable.Range(0, wishes.Rooms).Select(room => Enumerable.Range(0, late)
            .Count(one => roomOf[one] == room && wishes.Groups[one] is { } group && group == wishes.Groups[late])).ToArray();
        return Enumerable.Range(0, wishes.Rooms)
            .OrderByDescending(with.Contains).ThenBy(without.Contains)
            .ThenByDescending(room => wishes.Spread == Spread.ByGroup && own[room] > 0)
            .ThenBy(room => size[room]).ThenBy(room => own[room]).ThenBy(room => room).First();
    }

    private static void Check(RoomWishes wishes)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(wishes.Rooms, 1);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(wishes.Rooms, RoomWishes.MostRooms);
        var people = wishes.People;
        bool Is(int person) => person >= 0 && person < people;
        if (wishes.Fixed.Length != people || wishes.Earlier.Any(round => round.Length != people)
            || wishes.Fixed.Any(room => room < 0 || room >= wishes.Rooms) || !wishes.Together.All(set => set.All(Is))
            || !wishes.Apart.All(pair => Is(pair.One) && Is(pair.Other) && pair.One != pair.Other))
            throw new ArgumentException("There is no such person or room.", nameof(wishes));
    }

    private static ImmutableArray<int> Sorted((int One, int Other) pair) =>
        pair.One < pair.Other ? [pair.One, pair.Other] : [pair.Other, pair.One];

    /// <summary>People who go together, with the room that is fixed for them; and what of the wishes contradicts itself.</summary>
    private static (List<Unit> Units, List<Clash> Clashes) Units(RoomWishes wishes)
    {
        var clashes = new List<Clash>();
        var leader = Enumerable.Range(0, wishes.People).ToArray();
        int Find(int person) => leader[person] == person ? person : leader[person] = Find(leader[person]);
        foreach (var set in wishes.Together)
            foreach (var other in set.Skip(1)) leader[Find(other)] = Find(set[0]);
        var units = new List<Unit>();
        var most = (wishes.People + wishes.Rooms - 1) / wishes.Rooms;
        foreach (var block in Enumerable.Range(0, wishes.People).GroupBy(Find).Select(block => block.ToList()))
        {
            var rooms = block.Select(person => wishes.Fixed[person]).OfType<int>().Distinct().ToList();
            if (rooms.Count > 1)
            {
                clashes.Add(new Clash(ClashKind.TogetherInTwoRooms, [.. block.Where(person => wishes.Fixed[person] is not null)]));
                units.AddRange(rooms.Select(room =>
                    new Unit([.. block.Where(person => (wishes.Fixed[person] ?? rooms[0]) == room)], room)));
            }
            else if (block.Count > most && rooms is [])
            {
                clashes.Add(new Clash(ClashKind.TogetherTooMany, [.. block]));
                units.AddRange(block.Chunk(most).Select(part => new Unit([.. part], null)));
            }
            else units.Add(new Unit([.. block], rooms is [var only] ? only : null));
        }
        foreach (var pair in wishes.Apart)
        {
            var together = Find(pair.One) == Find(pair.Other);
            var fixedToOne = wishes.Fixed[pair.One] is { } room && wishes.Fixed[pair.Other] == room;
            if (together || fixedToOne)
                clashes.Add(new Clash(together ? ClashKind.ApartAndTogether : ClashKind.ApartInOneRoom, Sorted(pair)));
        }
        return (units, [.. clashes.DistinctBy(clash => (clash.Kind, string.Join(',', clash.People)))]);
    }

    /// <summary>Pairs of a plan who were in one room before, each counted once for every round in which they were.</summary>
    public static int Repeated(RoomWishes wishes, ImmutableArray<int> roomOf) => wishes.Earlier.Sum(round =>
        Enumerable.Range(0, roomOf.Length).Where(person => round[person] is not null)
            .GroupBy(person => (round[person], roomOf[person])).Sum(met => Pairs(met.Count())));

    /// <summary>Each room of an earlier round, spread evenly over the rooms of this one, leaves at least these pairs together.</summary>
    private static int Least(RoomWishes wishes) => wishes.Earlier.Sum(round =>
        round.Where(room => room is not null).GroupBy(room => room).Sum(room => EvenPairs(room.Count(), wishes.Rooms)));

    private static int EvenPairs(int people, int rooms)
    {
        var (each, more) = (people / rooms, people % rooms);
        return (more * Pairs(each + 1)) + ((rooms - more) * Pairs(each));
    }

    private static int Pairs(int people) => people * (people - 1) / 2;

    private sealed record Unit(ImmutableArray<int> People, int? Fixed)
    {
        public int Size => People.Length;
    }

    /// <summary>Who sits where while it is being worked out.</summary>
    private sealed class Seating
    {
        private readonly RoomWishes _wishes;
        private readonly List<Unit> _units;
        private readonly Dice _dice;
        private readonly int[] _roomOf;
        private readonly int[] _unitRoom;
        private readonly List<int>[] _unitsIn;
        private readonly int[] _size;

        /// <summary>For each unit the rooms that it may be in: one's own, those of its group, or all.</summary>
        private readonly ImmutableArray<int>[] _allowed;

        /// <summary>What a pair costs in one room; empty for more people than pairs are looked at of.</summary>
        private readonly ushort[] _cost;

        /// <summary>What each person costs where they are.</summary>
        private readonly int[] _share;

        public Seating(RoomWishes wishes, List<Unit> units)
        {
            (_wishes, _units, _dice) = (wishes, units, new Dice(wishes.Seed));
            (_roomOf, _unitRoom, _size) = (new int[wishes.People], new int[units.Count], new int[wishes.Rooms]);
            _unitsIn = [.. Enumerable.Range(0, wishes.Rooms).Select(_ => new List<int>())];
            _share = new int[wishes.People];
            _allowed = Allowed();
            _cost = wishes.People <= RoomWishes.MostPeople ? Costs() : [];
        }

        public ImmutableArray<int> RoomOf => [.. _roomOf];

        private ushort[] Costs()
        {
            var people = _wishes.People;
            var cost = new ushort[people * people];
            void Add(int one, int other, int more)
            {
                cost[(one * people) + other] = (ushort)Math.Min(ushort.MaxValue, cost[(one * people) + other] + more);
                cost[(other * people) + one] = cost[(one * people) + other];
            }
            void AddAmong(IEnumerable<int> some, int more)
            {
                var all = some.ToList();
                for (var one = 0; one < all.Count; one++)
                    for (var other = one + 1; other < all.Count; other++) Add(all[one], all[other], more);
            }
            foreach (var round in _wishes.Earlier)
                foreach (var room in Enumerable.Range(0, people).Where(person => round[person] is not null)
                    .GroupBy(person => round[person])) AddAmong(room, MetBefore);
            if (_wishes.Spread == Spread.Mixed)
                foreach (var group in Enumerable.Range(0, people).Where(person => _wishes.Groups[person] is not null)
                    .GroupBy(person => _wishes.Groups[person])) AddAmong(group, OfOneGroup);
            foreach (var (one, other) in _wishes.Apart) Add(one, other, ToBeApart);
            return cost;
        }

        /// <summary>Rooms are given to groups as they are large; where there are fewer rooms than groups, small ones share.</summary>
        private ImmutableArray<int>[] Allowed()
        {
            ImmutableArray<int> all = [.. Enumerable.Range(0, _wishes.Rooms)];
            if (_wishes.Spread == Spread.Mixed) return [.. _units.Select(unit => unit.Fixed is { } only ? [only] : all)];
            string GroupOf(Unit unit) => unit.People.Select(person => _wishes.Groups[person] ?? "").GroupBy(group => group)
                .OrderByDescending(group => group.Count()).ThenBy(group => group.Key, StringComparer.Ordinal).First().Key;
            // Those of no group go wherever there is room.
            var groups = _units.GroupBy(GroupOf).Where(group => group.Key.Length > 0)
                .Select(group => (group.Key, Size: group.Sum(unit => unit.Size))).OrderByDescending(group => group.Size)
                .ThenBy(group => group.Key, StringComparer.Ordinal).ToList();
            var rooms = groups.ToDictionary(group => group.Key, _ => new List<int>());
            if (groups is []) return [.. _units.Select(unit => unit.Fixed is { } only ? [only] : all)];
            if (groups.Count >= _wishes.Rooms)
            {
                var filled = new int[_wishes.Rooms];
                foreach (var (group, size) in groups)
                {
                    var room = Array.IndexOf(filled, filled.Min());
                    rooms[group].Add(room);
                    filled[room] += size;
                }
            }
            else
            {
                // One each, and each further one to the group whose rooms are the fullest.
                for (var room = 0; room < _wishes.Rooms; room++)
                    rooms[groups.OrderByDescending(group => rooms[group.Key].Count == 0)
                        .ThenByDescending(group => (double)group.Size / Math.Max(1, rooms[group.Key].Count)).First().Key].Add(room);
            }
            return
            [
                .. _units.Select(unit => unit.Fixed is { } only ? [only]
                    : rooms.GetValueOrDefault(GroupOf(unit)) is { } own ? own.ToImmutableArray() : all)
            ];
        }

        /// <summary>The large ones first, each into the emptiest room that it may be in.</summary>
        public void PutInPlace()
        {
            var order = Enumerable.Range(0, _units.Count).ToArray();
            _dice.Shuffle(order);
            foreach (var unit in order.OrderByDescending(unit => _units[unit].Fixed is not null)
                .ThenByDescending(unit => _units[unit].Size))
                Put(unit, _allowed[unit].MinBy(room => _size[room]));
        }

        private void Put(int unit, int room)
        {
            _unitRoom[unit] = room;
            _unitsIn[room].Add(unit);
            foreach (var person in _units[unit].People) _roomOf[person] = room;
            if (_cost.Length > 0) Reckon(unit, room, 1);
            _size[room] += _units[unit].Size;
        }

        private void Take(int unit)
        {
            var room = _unitRoom[unit];
            _unitsIn[room].Remove(unit);
            _size[room] -= _units[unit].Size;
            if (_cost.Length > 0) Reckon(unit, room, -1);
        }

        /// <summary>What a unit costs with the others of a room, added to or taken from each.</summary>
        private void Reckon(int unit, int room, int sign)
        {
            foreach (var other in _unitsIn[room])
            {
                if (other == unit) continue;
                foreach (var one in _units[unit].People)
                    foreach (var two in _units[other].People)
                    {
                        var cost = sign * _cost[(one * _wishes.People) + two];
                        _share[one] += cost;
                        _share[two] += cost;
                    }
            }
        }

        private int CostOf(int unit, int room, int without)
        {
            var sum = 0;
            foreach (var other in _unitsIn[room])
            {
                if (other == unit || other == without) continue;
                foreach (var one in _units[unit].People)
                {
                    var row = one * _wishes.People;
                    foreach (var two in _units[other].People) sum += _cost[row + two];
                }
            }
            return sum;
        }

        public void Improve()
        {
            var movable = Enumerable.Range(0, _units.Count).Where(unit => _allowed[unit].Length > 1).ToArray();
            if (_cost.Length == 0 || movable.Length < 2) return;
            var cost = (_share.Sum() / 2) + _units.Sum(Within);
            var least = LeastCost();
            var (best, found) = (cost, (int[])_unitRoom.Clone());
            const double Hot = MetBefore * 0.55, Cold = 0.4;
            var tries = Math.Min(MostTries, MostLooks / Math.Max(1, _wishes.People / _wishes.Rooms)) / Heats;
            for (var n = 0; n < tries * Heats && best > least; n++)
            {
                var warmth = Hot * Math.Pow(Cold / Hot, (double)(n % tries) / tries);
                var unit = movable[_dice.Below(movable.Length)];
                // Those who are well placed are left alone mostly.
                if (_units[unit].People.All(person => _share[person] == 0) && _dice.Below(8) > 0) continue;
                var room = _allowed[unit][_dice.Below(_allowed[unit].Length)];
                if (room == _unitRoom[unit]) continue;
                if (Partner(unit, room) is not { } partner) continue;
                var change = Change(unit, room, partner);
                if (change > 0 && _dice.Share() >= Math.Exp(-change / warmth)) continue;
                Exchange(unit, room, partner);
                cost += change;
                if (cost >= best) continue;
                (best, found) = (cost, (int[])_unitRoom.Clone());
            }
            for (var unit = 0; unit < _units.Count; unit++)
                foreach (var person in _units[unit].People) _roomOf[person] = found[unit];
        }

        /// <summary>What those of a unit cost with each other, wherever it is.</summary>
        private int Within(Unit unit) => unit.People.SelectMany((one, at) => unit.People.Skip(at + 1)
            .Select(other => (int)_cost[(one * _wishes.People) + other])).Sum();

        /// <summary>What the wishes cost at least, so that nothing is looked for that cannot be.</summary>
        private int LeastCost() => (Least(_wishes) * MetBefore) + (_wishes.Spread == Spread.Mixed
            ? _wishes.Groups.Where(group => group is not null).GroupBy(group => group).Sum(group => EvenPairs(group.Count(), _wishes.Rooms))
            : 0);

        /// <summary>Stands for nobody: the unit moves, and none comes back.</summary>
        private const int Nobody = -1;

        /// <summary>Who could go the other way; null when neither an exchange nor a move keeps the rooms as even as they are.</summary>
        private int? Partner(int unit, int room)
        {
            var from = _unitRoom[unit];
            var size = _units[unit].Size;
            if (_size[from] - size >= _size[room] && _dice.Below(3) == 0) return Nobody;
            var start = _dice.Below(_unitsIn[room].Count + 1);
            for (var n = 0; n < _unitsIn[room].Count; n++)
            {
                var other = _unitsIn[room][(start + n) % _unitsIn[room].Count];
                if (_units[other].Size == size && _allowed[other].Contains(from)) return other;
            }
            return _size[from] - size >= _size[room] ? Nobody : null;
        }

        private int Change(int unit, int room, int partner)
        {
            var from = _unitRoom[unit];
            var change = CostOf(unit, room, partner) - CostOf(unit, from, Nobody);
            return partner == Nobody ? change : change + CostOf(partner, from, unit) - CostOf(partner, room, Nobody);
        }

        private void Exchange(int unit, int room, int partner)
        {
            var from = _unitRoom[unit];
            Take(unit);
            if (partner != Nobody) Take(partner);
            Put(unit, room);
            if (partner != Nobody) Put(partner, from);
        }
    }
}
