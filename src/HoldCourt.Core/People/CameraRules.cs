namespace HoldCourt.Core.People;

internal static class CameraRules
{
    public static Decision Decide(Sitting sitting, TurnCamera turn, Actor by)
    {
        if (by.Seat is not { } id) return Decision.Refused(Reason.NotInside);
        if (sitting.Seats[id].CameraOn == turn.On) return Decision.AlreadySo;
        if (turn.On && sitting.Forbids(by, Capability.ShowCamera) is { } refusal) return refusal;
        return new CamerasTurned([id], turn.On);
    }

    public static Decision Decide(Sitting sitting, CamerasOff off, Actor by)
    {
        if (sitting.Forbids(by, Capability.TurnCamerasOff) is { } refusal) return refusal;
        var here = sitting.Those(off.Seats, seat => seat.IsSeated);
        if (here is []) return Decision.Refused(Reason.NobodySeated);
        var seats = sitting.Those(here, seat => seat.CameraOn);
        return seats is [] ? Decision.AlreadySo : new CamerasTurned(seats, false);
    }

    public static CamerasTurned? Opposite(Sitting sitting, CamerasTurned turned)
    {
        var seats = sitting.Those(turned.Seats, seat => seat.IsSeated && seat.CameraOn == turned.On
            && (turned.On || sitting.Forbids(Actor.Of(seat.Id), Capability.ShowCamera) is null));
        return seats is [] ? null : new CamerasTurned(seats, !turned.On);
    }

    public static Sitting Apply(Sitting sitting, CamerasTurned turned) =>
        sitting.WithEach(turned.Seats, seat => seat with { CameraOn = turned.On });
}
