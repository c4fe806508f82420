using System.Collections.Immutable;

namespace HoldCourt.Core.Views;

/// <summary>
/// Projects a sitting into what each kind of viewer may know, and finds what changed between two states. A seat's row
/// depends on the seat and the orders alone, so that seats which are the same objects need not be looked at.
/// </summary>
public static class Projection
{
    /// <summary>How many entries of the ledger a whole view carries; older ones are read from the store.</summary>
    public const int LedgerDepth = 200;

    public static MeRow Me(Sitting sitting, Seat seat) => new(
        seat.Id, seat.Name, seat.Role, Knowledge.ViewerOf(seat), seat.Place, seat.Exit, seat.Words, seat.Since, MicrophoneOf(sitting, seat), seat.CameraOn,
        seat.Asked, seat.Consents, seat.HandSince, seat.State, [.. Powers.Of(sitting, seat.Id)]);

    /// <summary>A seat's row for a kind of viewer; null when that kind may not know of the seat.</summary>
    public static SeatRow? Row(Sitting sitting, Seat seat, Viewer viewer)
    {
        if (!sitting.MayKnow(viewer, new Matter.Person(seat))) return null;
        var note = sitting.MayKnow(viewer, Matter.Books)
            ? new BenchNote(seat.Recognition, sitting.Docket[seat.Recognition.Line], seat.Exit, seat.Asked, seat.HasLeave, seat.Consents, seat.DroppedAt,
                seat.Given, seat.Taken, (long)seat.TalkTime.TotalMilliseconds, (long)seat.FloorTime.TotalMilliseconds, seat.LooksLike)
            : null;
        return new SeatRow(seat.Id, seat.Name, seat.Role, seat.Place, seat.Since, MicrophoneOf(sitting, seat), seat.CameraOn, seat.Connected, seat.HandSince, seat.State, seat.ByPhone, note);
    }

    public static SittingRow Record(Sitting sitting, Viewer viewer)
    {
        var (inside, waiting) = (0, 0);
        foreach (var seat in sitting.Seats)
        {
            if (seat.Place == Place.Seated) inside++;
            else if (seat.Place == Place.Lobby) waiting++;
        }
        return Record(sitting, viewer, sitting.MayKnow(viewer, Matter.Attendance) ? inside : 0, sitting.MayKnow(viewer, Matter.Books) ? waiting : 0);
    }

    public static WholeView Whole(Sitting sitting, Viewer viewer, IEnumerable<Entry> newestEntries) => new(
        sitting.Sequence, viewer, Record(sitting, viewer),
        [.. sitting.Seats.Select(seat => Row(sitting, seat, viewer)).OfType<SeatRow>()],
        sitting.MayKnow(viewer, Matter.Books) ? Sentences.Of(sitting, newestEntries) : []);

    /// <summary>The difference for one kind of viewer. A view's version is the sequence of the last entry in it.</summary>
    /// <param name="entries">What led from <paramref name="before"/> to <paramref name="after"/>.</param>
    public static ViewChange Difference(Sitting before, Sitting after, Viewer viewer, ImmutableArray<Entry> entries)
    {
        var put = ImmutableArray.CreateBuilder<SeatRow>();
        var switched = new List<SeatRow>();
        var drop = ImmutableArray.CreateBuilder<SeatId>();
        var pairs = before.Orders == after.Orders && before.Turn?.Seat == after.Turn?.Seat && before.Phase == after.Phase && ReferenceEquals(before.Picture, after.Picture)
            ? after.Seats.ChangedSince(before.Seats)
            : after.Seats.Select(seat => (Before: before.Seats.TryGet(seat.Id, out var was) ? was : null, After: seat));
        var (headline, hands) = (false, false);
        foreach (var (was, now) in pairs)
        {
            headline |= was?.Place != now.Place || was.Name != now.Name || was.Recognition != now.Recognition;
            hands |= was?.HandSince != now.HandSince || (now.HandSince is not null && (was?.TalkTime != now.TalkTime || was.FloorTime != now.FloorTime));
            var old = was is null ? null : Row(before, was, viewer);
            var row = Row(after, now, viewer);
            if (row == old) continue;
            if (row is null) drop.Add(now.Id);
            else if (old is not null && row == old with { Microphone = row.Microphone, CameraOn = row.CameraOn }) switched.Add(row);
            else put.Add(row);
        }
        return new ViewChange(before.Sequence, after.Sequence, RecordIfChanged(before, after, viewer, headline, hands), put.DrainToImmutable(), Together(switched), drop.DrainToImmutable(),
            after.MayKnow(viewer, Matter.Books) ? Sentences.Of(after, entries) : []);
    }

    private static ImmutableArray<SwitchedRows> Together(List<SeatRow> switched) =>
        [.. switched.GroupBy(row => (row.Microphone, row.CameraOn)).Select(alike => new SwitchedRows(alike.Key.Microphone, alike.Key.CameraOn, [.. alike.Select(row => row.Id)]))];

    private static SittingRow? RecordIfChanged(Sitting before, Sitting after, Viewer viewer, bool placeOrNameChanged, bool handsChanged)
    {
        // A message that is put up shows its sender's name and role.
        var same = !placeOrNameChanged && before.Phase == after.Phase && before.Door == after.Door && before.Orders == after.Orders && before.Floor == after.Floor && before.Turn == after.Turn
            && ReferenceEquals(before.Notices, after.Notices) && ReferenceEquals(before.Docket, after.Docket) && before.Host == after.Host && HostName(before) == HostName(after)
            && (!after.MayKnow(viewer, Matter.Books) || (!handsChanged && ReferenceEquals(before.Takeable, after.Takeable) && Taking.Newest(before) == Taking.Newest(after)))
            && before.EndsAt == after.EndsAt && before.Recess == after.Recess && ReferenceEquals(before.Picture, after.Picture) && PutUpOf(before, viewer) == PutUpOf(after, viewer)
            && ReferenceEquals(before.RunSheet, after.RunSheet) && before.Succession == after.Succession;
        if (same) return null;
        if (!placeOrNameChanged && after.MayKnow(viewer, Matter.Books)) return Record(after, viewer);
        var now = Record(after, viewer);
        return now == Record(before, viewer) ? null : now;
    }

    private static SittingRow Record(Sitting sitting, Viewer viewer, int inside, int waiting)
    {
        var bench = sitting.MayKnow(viewer, Matter.Books);
        var inPlace = sitting.MayKnow(viewer, Matter.Inside);
        return new SittingRow(
            sitting.Title, sitting.Phase, sitting.OpenedAt, sitting.AdjournedAt, sitting.Host, HostName(sitting), inPlace ? sitting.Orders : OrderSheet.Usual,
            bench ? sitting.Door.Mode : null, bench && sitting.Door.ByName, bench ? sitting.Door.Lock : null, sitting.Door.Lock is not null, inside, waiting,
            bench && Taking.Newest(sitting) is { } newest ? new TakeableRow(newest.Sequence, Sentences.Of(sitting, newest)) : null,
            bench && sitting.Docket.HasSlots, bench && sitting.Docket.HasSlots ? Visits.NextOf(sitting)?.Id : null, sitting.MayKnow(viewer, Matter.Notices) && sitting.Notices is [.., var notice] ? notice : null,
            inPlace ? sitting.Floor : null,
            inPlace && sitting.Turn is { } turn ? new TurnRow(turn.Seat, sitting.Seats[turn.Seat].Name, turn.Since, turn.Seconds) : null,
            bench ? [.. Hands.InOrder(sitting).Select(seat => seat.Id)] : null,
            bench ? [.. sitting.Takeable.Select(entry => entry.Sequence)] : null,
            sitting.EndsAt, inPlace ? sitting.Recess : null, inPlace ? sitting.Picture : null, inPlace ? PutUpOf(sitting, viewer) : null, inPlace ? ItemOf(sitting.RunSheet) : null,
            bench ? sitting.RunSheet : null, bench ? sitting.Succession : null);
    }

    /// <summary>A message for a kind of viewer all of whom may read it; names are those of now.</summary>
    public static MessageRow Row(Sitting sitting, ChatMessage message, Viewer viewer) => Row(sitting, message, sitting.MayKnow(viewer, new Matter.Writer(message)));

    /// <summary>A message for somebody who may read it.</summary>
    public static MessageRow Row(Sitting sitting, ChatMessage message, Seat reader) => Row(sitting, message, sitting.MayKnow(reader, new Matter.Writer(message)));

    private static MessageRow Row(Sitting sitting, ChatMessage message, bool named)
    {
        var from = sitting.Seats[message.From];
        return new MessageRow(
            message.Number, message.At, message.From, named ? from.Name : null, from.Role, message.To, message.To.Seat is { } to ? sitting.Seats[to].Name : null,
            message.Text, message.Question, message.Edited, message.Deleted);
    }

    private static MessageRow? PutUpOf(Sitting sitting, Viewer viewer) =>
        sitting.PutUp is { } number && sitting.Message(number) is { } message ? Row(sitting, message, viewer) : null;

    private static ItemRow? ItemOf(RunSheet sheet) => sheet is { Now: { } item, Since: { } since }
        ? new ItemRow(item.Title, sheet.IndexOf(item.Id) + 1, sheet.Items.Length, item.Minutes, since)
        : null;

    private static string? HostName(Sitting sitting) => sitting.Host is { } host ? sitting.Seats[host].Name : null;

    private static MicrophoneState MicrophoneOf(Sitting sitting, Seat seat) =>
        seat.MicrophoneOpen ? MicrophoneState.Open
        : seat.IsSeated && sitting.Forbids(Actor.Of(seat.Id), Capability.Speak)?.Reason == Reason.MicrophonesByLeave ? MicrophoneState.ByLeave
        : MicrophoneState.Closed;
}
