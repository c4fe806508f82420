namespace HoldCourt.Core.Orders;

/// <summary>Something about a sitting that may cross to a browser.</summary>
public abstract record Matter
{
    private Matter() { }

    /// <summary>What goes on inside: the floor, the picture, the item that is on, orders, reactions.</summary>
    public static Matter Inside { get; } = new WhatGoesOn();

    /// <summary>How many are inside.</summary>
    public static Matter Attendance { get; } = new Headcount();

    /// <summary>What the bench keeps for itself: who waits and who is thought to be
    /// whom, the docket, the run sheet, the ledger, everybody's history.</summary>
    public static Matter Books { get; } = new WhatTheBenchKeeps();

    /// <summary>What the bench says to those who wait.</summary>
    public static Matter Notices { get; } = new WordsToThoseWhoWait();

    internal sealed record WhatGoesOn : Matter;
    internal sealed record Headcount : Matter;
    internal sealed record WhatTheBenchKeeps : Matter;
    internal sealed record WordsToThoseWhoWait : Matter;

    /// <summary>That somebody is here: the row, the name, the picture.</summary>
    public sealed record Person(Seat Seat) : Matter;

    /// <summary>That something stands on the shelf.</summary>
    public sealed record OfExhibit(Exhibit Exhibit) : Matter;

    /// <summary>Its pages, those too that have not been turned to.</summary>
    public sealed record AllPages(Exhibit Exhibit) : Matter;

    /// <summary>One of its pages, and what is drawn over it.</summary>
    public sealed record OfPage(Exhibit Exhibit, int Page) : Matter
    {
        /// <summary>The page that all see, or another.</summary>
        internal Matter Plain => Page == (Exhibit.Pages?.At ?? 1) ? new OfExhibit(Exhibit) : new AllPages(Exhibit);
    }

    /// <summary>A file that is handed out, and what stands in it.</summary>
    public sealed record OfHandout(Handout Handout) : Matter;

    /// <summary>What a message says.</summary>
    public sealed record Words(ChatMessage Message) : Matter;

    /// <summary>What somebody said, in words.</summary>
    public sealed record Caption(CaptionLine Line) : Matter;

    /// <summary>Who wrote a message.</summary>
    public sealed record Writer(ChatMessage Message) : Matter;
}

/// <summary>
/// <em>May this seat know this?</em> Everything that crosses to a browser goes past this question: views, messages,
/// reactions, completions, foresight, persons, the ledger, pictures, files. What goes out once to a kind of viewer is asked
/// for the kind, which knows what everybody of that kind may.
/// </summary>
public static class Knowledge
{
    public static Viewpoint ViewpointOf(Sitting sitting, Seat seat) => seat switch
    {
        { IsSeated: false } => Viewer.Outside,
        { OnBench: true } => new Viewpoint(Viewer.Bench, seat.Room),
        _ when sitting.RoleHere(seat) == Role.Presenter => new Viewpoint(Viewer.Presenter, seat.Room),
        _ => new Viewpoint(Viewer.Attendee, seat.Room)
    };

    /// <summary>Whether somebody was inside, for what is kept of it: is there, or has left by themselves; whoever was put out was not.
    /// And whether that was on the bench.</summary>
    /// <param name="seats">All of one person: what was done to one of them holds for the others, unless they were let in since.</param>
    public static (bool Inside, bool OnBench) PresenceOf(IReadOnlyCollection<Seat> seats)
    {
        var inside = seats.Where(seat => seat is { Admittance: Admittance.Granted, Place: Place.Seated }
            or { Admittance: Admittance.Granted, Exit: Exit.Left }
            && !seats.Any(other => other.Id != seat.Id && Persons.WasPutOutBy(other, seat))).ToList();
        return (inside is not [], inside.Exists(seat => seat.OnBench));
    }

    /// <summary>Whether something may be known from a viewpoint, by all who share it.</summary>
    public static bool MayKnow(this Sitting sitting, Viewpoint from, Matter matter) =>
        MayKnowHere(sitting.At(from.Room), from.Viewer, matter);

    private static bool MayKnowHere(Sitting sitting, Viewer viewer, Matter matter) => matter switch
    {
        Matter.OfPage page => MayKnowHere(sitting, viewer, page.Plain),
        Matter.WordsToThoseWhoWait => viewer is Viewer.Bench or Viewer.Outside,
        _ when viewer == Viewer.Outside => false,
        Matter.WhatGoesOn => true,
        Matter.Headcount => viewer != Viewer.Attendee,
        Matter.WhatTheBenchKeeps => viewer == Viewer.Bench,
        Matter.Person { Seat: var seat } => viewer == Viewer.Bench || (sitting.IsHere(seat) && IsShown(sitting, RoleOf(viewer), seat)),
        // Nobody sees through a wall, the bench neither.
        Matter.OfExhibit { Exhibit.Number: var number } when sitting.Shelf.Find(number) is null => false,
        Matter.AllPages { Exhibit.Number: var number } when sitting.Shelf.Find(number) is null => false,
        Matter.OfExhibit { Exhibit: var exhibit } => viewer == Viewer.Bench || sitting.Shelf.IsShown(exhibit),
        Matter.AllPages { Exhibit: var exhibit } =>
            viewer == Viewer.Bench || (exhibit.Pages is { FreeLook: true } && sitting.Shelf.IsShown(exhibit)),
        // Names stay beside what was written by people who have gone.
        Matter.Writer { Message: var message } => viewer == Viewer.Bench || IsShown(sitting, RoleOf(viewer), sitting.Seats[message.From]),
        Matter.Words { Message: { To.Reach: Reach.Everyone } message } when message.Room != sitting.Here =>
            viewer == Viewer.Bench && sitting.Here is null && message.Room is { } room
                && sitting.Rooms.FindPast(room) is { KeepsChat: true },
        Matter.Words { Message.To.Reach: Reach.Everyone } =>
            sitting.Orders.Allows(RoleOf(viewer), Order.SeeChat) && (viewer == Viewer.Bench || !sitting.Docket.HasSlots),
        Matter.Words { Message.To.Reach: Reach.Bench } => viewer == Viewer.Bench,
        // Whoever hears the others may read what they say; what one visitor said is not for the next.
        Matter.Caption { Line: var line } => line.Room == sitting.Here && (viewer == Viewer.Bench || !sitting.Docket.HasSlots),
        _ => false
    };

    /// <summary>
    /// Whether somebody may know something: what their kind may; what they wrote or what was written to them; and, where
    /// people come for visits one at a time, what was written to everyone since they came in.
    /// </summary>
    public static bool MayKnow(this Sitting sitting, Seat seat, Matter matter)
    {
        if (sitting.MayKnow(ViewpointOf(sitting, seat), matter)) return true;
        return matter switch
        {
            Matter.OfPage page => sitting.MayKnow(seat, page.Plain),
            Matter.Person { Seat: var other } => other.Id == seat.Id,
            Matter.OfExhibit { Exhibit.Number: var number } when sitting.AtPlaceOf(seat).Shelf.Find(number) is null => false,
            Matter.AllPages { Exhibit.Number: var number } when sitting.AtPlaceOf(seat).Shelf.Find(number) is null => false,
            Matter.OfExhibit { Exhibit: var exhibit } => seat.IsSeated && exhibit.By == seat.Id,
            Matter.AllPages { Exhibit: var exhibit } => seat.IsSeated && (exhibit.By == seat.Id
                || (sitting.AtPlaceOf(seat) is var here && here.Shelf.IsShown(exhibit) && here.HolderOf(exhibit) == seat.Id)),
            Matter.OfHandout { Handout: var handout } =>
                seat.IsSeated && sitting.AtPlaceOf(seat).Handouts.Find(handout.Number) is not null
                    && (handout.By == seat.Id || sitting.IsFor(seat, handout)),
            Matter.Words { Message: var message } => message.From == seat.Id || (seat.IsSeated && IsFor(sitting, seat, message)),
            Matter.Caption { Line: var line } =>
                seat.IsSeated && ((line.Heard >= seat.Since && line.Room == seat.Room) || line.By == seat.Id),
            Matter.Writer { Message: var message } => message.From == seat.Id || (seat.IsSeated && message.To.Seat == seat.Id),
            _ => false
        };
    }

    /// <summary>A file is for this seat: it is inside, and did not give it. Where people come for visits one at a time, what went to
    /// everyone before they came in is for others. What was handed out in a room that is closed is for those who took it there, and
    /// the bench.</summary>
    internal static bool IsFor(this Sitting sitting, Seat seat, Handout handout) => seat.IsSeated && seat.Id != handout.By
        && (handout.IsOfRoom ? seat.OnBench || handout.Taken.Contains(seat.Id)
            : handout.To is null ? !sitting.Docket.HasSlots || seat.OnBench || handout.Since >= seat.Since : handout.To == seat.Id);

    private static bool IsFor(Sitting sitting, Seat seat, ChatMessage message) => message.To.Reach switch
    {
        Reach.One => message.To.Seat == seat.Id,
        Reach.Everyone => message.Room == seat.Room && sitting.AtPlaceOf(seat) is var here
            && here.Orders.Allows(here.RoleHere(seat), Order.SeeChat) && message.At >= seat.Since,
        _ => false
    };

    /// <summary>Somebody sees who else is there once they are in a room.</summary>
    internal static bool WouldSeePeople(this Sitting sitting, Seat seat, Room room) =>
        sitting.Rooms.Orders.Allows(room.Leads.Contains(seat.Id) ? Role.Presenter : seat.Role, Order.SeePeople);

    /// <summary>Presenters, the bench, and those whom all are to see are seen by all.</summary>
    private static bool IsShown(Sitting sitting, Role viewer, Seat seat) =>
        sitting.RoleHere(seat) >= Role.Presenter || sitting.Turn?.Seat == seat.Id || sitting.Picture.Front.Contains(seat.Id)
            || sitting.Shelf.ShowsFor(seat.Id) || sitting.Orders.Allows(viewer, Order.SeePeople);

    private static Role RoleOf(Viewer viewer) =>
        viewer switch { Viewer.Bench => Role.Deputy, Viewer.Presenter => Role.Presenter, _ => Role.Attendee };
}
