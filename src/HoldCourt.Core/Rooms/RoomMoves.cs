namespace HoldCourt.Core.Rooms;

/// <summary>What happens to people who go from one place to another.</summary>
internal static class RoomMoves
{
    /// <summary>
    /// They are there from now on. A hand that is up is for the place that is left. A microphone or camera never opens by this: back in
    /// the hall it is open only when it was there, and still is.
    /// </summary>
    public static Sitting Put(this Sitting sitting, IEnumerable<(SeatId Seat, int? Room)> moves, bool listens = false)
    {
        var list = moves.ToList();
        var after = list.Aggregate(sitting, (state, move) => state.With(move.Seat, seat => seat.Room == move.Room && seat.Listens == listens
            ? seat
            : Moved(seat, move.Room, listens)));
        return after.WithEach(list.Select(move => move.Seat), seat => seat with
        {
            MicrophoneOpen = seat.MicrophoneOpen && after.MaySpeak(seat),
            CameraOn = seat.CameraOn && after.MayShow(seat)
        });
    }

    private static Seat Moved(Seat seat, int? room, bool listens)
    {
        var inHall = seat.InHall ?? new LeftOpen(seat.MicrophoneOpen, seat.CameraOn);
        return seat with
        {
            Room = room,
            Listens = listens && room is not null,
            InHall = room is null ? null : inHall,
            MicrophoneOpen = seat.MicrophoneOpen && !listens && (room is not null || inHall.Microphone),
            CameraOn = seat.CameraOn && !listens && (room is not null || inHall.Camera),
            HandSince = null,
            Asked = false
        };
    }

    /// <summary>After any fact: whose voice goes into all rooms is inside; a call is of somebody who is in the room.</summary>
    public static Sitting Follow(Sitting before, Sitting after)
    {
        if (after.Phase == Phase.Adjourned && (after.Rooms.Open is not [] || after.Rooms.Draft is not null))
            return RoomsClosed.OfAll(after) with { Rooms = RoomsClosed.OfAll(after).Rooms with { Draft = null } };
        if (after.Rooms.Open is [] || ReferenceEquals(before.Seats, after.Seats)) return after;
        var rooms = after.Rooms;
        foreach (var room in rooms.Open)
            if (room.CalledBy is { } caller && after.Seats[caller].Room != room.Number)
                rooms = rooms.With(room.Number, one => one with { CalledAt = null, CalledBy = null });
        if (rooms.Voice is { } voice && after.Seats[voice] is var speaker && (!Powers.SitsOnBench(speaker) || speaker.Listens))
            rooms = rooms with { Voice = null };
        return ReferenceEquals(rooms, after.Rooms) ? after : after with { Rooms = rooms };
    }

    /// <summary>Somebody's voice was heard.</summary>
    public static Sitting Heard(this Sitting sitting, SeatId id, Instant at) => sitting.Seats[id].Room is not { } room
        ? sitting
        : sitting with { Rooms = sitting.Rooms.With(room, one => one with { HeardAt = at, HeardLast = id }) };
}

/// <summary>Where people go who come in while rooms are open.</summary>
internal static class RoomPlacing
{
    /// <summary>Those who have just come in, and the rooms where they belong; null when nobody has.</summary>
    public static LatePlaced? Note(Sitting before, Sitting after)
    {
        if (after.Rooms is { Open: [] } or { OpensAt: not null } || ReferenceEquals(before.Seats, after.Seats)) return null;
        var late = after.Seats.ChangedSince(before.Seats)
            .Where(pair => pair.Before is not { IsSeated: true } && pair.After.Room is null
                && Powers.BelongsInRooms(pair.After))
            .Select(pair => pair.After.Id).ToList();
        var placed = Place(after, late);
        return placed is [] ? null : new LatePlaced([.. placed.Select(one => one.Seat)], [.. placed.Select(one => one.Room)]);
    }

    /// <summary>One after the other; those stay out whom no rule puts anywhere.</summary>
    public static List<(SeatId Seat, int Room)> Place(Sitting sitting, IReadOnlyList<SeatId> late)
    {
        var placed = new List<(SeatId, int)>();
        foreach (var id in late)
        {
            if (RoomPlanning.RoomFor(sitting, sitting.Seats[id]) is not { } room) continue;
            placed.Add((id, room));
            sitting = sitting with { Rooms = sitting.Rooms with { Assigned = sitting.Rooms.Assigned.SetItem(id.Number, room) } };
        }
        return placed;
    }
}
