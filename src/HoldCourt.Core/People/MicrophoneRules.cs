using System.Collections.Immutable;

namespace HoldCourt.Core.People;

internal static class MicrophoneRules
{
    public static Decision DecideOpen(Sitting sitting, Actor by)
    {
        if (sitting.Forbids(by, Capability.Speak) is { } refusal) return refusal;
        return by.Seat is { } id && !sitting.Seats[id].MicrophoneOpen ? new MicrophonesOpened([id], []) : Decision.AlreadySo;
    }

    public static Decision DecideClose(Sitting sitting, Actor by) =>
        by.Seat is { } id && sitting.Seats[id].MicrophoneOpen ? new Muted([id], []) : Decision.AlreadySo;

    public static Decision Decide(Sitting sitting, Mute mute, Actor by) =>
        sitting.Forbids(by, Capability.MuteOthers) ?? (sitting.Those(mute.Seats, seat => seat.IsSeated) is { Length: > 0 } seats ? Close(sitting, seats) : Decision.Refused(Reason.NobodySeated));

    public static Decision Decide(Sitting sitting, MuteAll all, Actor by) =>
        sitting.Forbids(by, Capability.MuteOthers)
        ?? Close(sitting, [.. sitting.Seats
            .Where(seat => seat.IsSeated && by.Seat != seat.Id && (all.Presenters || (!Powers.PresentsOrLeads(seat) && sitting.Turn?.Seat != seat.Id)))
            .Select(seat => seat.Id)]);

    private static Decision Close(Sitting sitting, ImmutableArray<SeatId> seats)
    {
        var open = sitting.Those(seats, seat => seat.MicrophoneOpen);
        var leaves = sitting.Those(seats, seat => seat.HasLeave);
        return open is [] && leaves is [] ? Decision.AlreadySo : new Muted(open, leaves);
    }

    public static Decision Decide(Sitting sitting, Unmute unmute, Actor by)
    {
        if (sitting.Forbids(by, Capability.MuteOthers) is { } refusal) return refusal;
        var here = sitting.Those(unmute.Seats, seat => seat.IsSeated);
        if (here is []) return Decision.Refused(Reason.NobodySeated);
        var muted = sitting.Those(here, seat => !seat.MicrophoneOpen);
        if (muted is []) return Decision.AlreadySo;
        var consenting = sitting.Those(muted, seat => seat.Consents);
        return consenting is []
            ? Decision.Refused(Reason.NobodyConsents)
            : new MicrophonesOpened(consenting, sitting.Those(consenting, seat => sitting.Forbids(Actor.Of(seat.Id), Capability.Speak) is not null));
    }

    public static Decision Decide(Sitting sitting, AskToUnmute ask, Actor by)
    {
        if (sitting.Forbids(by, Capability.MuteOthers) is { } refusal) return refusal;
        var here = sitting.Those(ask.Seats, seat => seat.IsSeated);
        if (here is []) return Decision.Refused(Reason.NobodySeated);
        var seats = sitting.Those(here, seat => seat is { MicrophoneOpen: false, Asked: false });
        return seats is [] ? Decision.AlreadySo : new AskedToUnmute(seats);
    }

    public static Decision Decide(Sitting sitting, AnswerUnmute answer, Actor by)
    {
        if (by.Seat is not { } id || !sitting.Seats[id].Asked) return Decision.Refused(Reason.NotAsked);
        if (!answer.Agree) return new UnmuteAnswered(id, false, sitting.Seats[id].Consents);
        return sitting.Forbids(by, Capability.Speak) is { } refusal ? refusal : new UnmuteAnswered(id, true, answer.Consent || sitting.Seats[id].Consents);
    }

    /// <summary>Opens again those of a mute who are still here, still muted, and may speak with the leave they had.</summary>
    public static MicrophonesOpened? Opposite(Sitting sitting, Muted muted)
    {
        var leaves = sitting.Those(muted.Leaves, seat => seat is { IsSeated: true, HasLeave: false });
        var given = sitting.WithEach(leaves, seat => seat with { HasLeave = true });
        var seats = given.Those(muted.Seats, seat => !seat.MicrophoneOpen && given.Forbids(Actor.Of(seat.Id), Capability.Speak) is null);
        return seats is [] && leaves is [] ? null : new MicrophonesOpened(seats, leaves);
    }

    public static Muted? Opposite(Sitting sitting, MicrophonesOpened opened) =>
        sitting.Those(opened.Seats, seat => seat.MicrophoneOpen) is { Length: > 0 } seats
            ? new Muted(seats, sitting.Those(opened.Leaves, seat => seat.HasLeave))
            : null;

    public static Sitting Apply(Sitting sitting, Fact fact) => fact switch
    {
        Muted muted => sitting
            .WithEach(muted.Leaves, seat => seat with { HasLeave = false, Asked = false })
            .WithEach(muted.Seats, seat => seat with { MicrophoneOpen = false, Asked = false }),
        MicrophonesOpened opened => sitting
            .WithEach(opened.Leaves, seat => seat with { HasLeave = true })
            .WithEach(opened.Seats, seat => seat with { MicrophoneOpen = true, Asked = false }),
        AskedToUnmute asked => sitting.WithEach(asked.Seats, seat => seat with { Asked = true, HasLeave = true }),
        UnmuteAnswered answered => sitting.With(answered.Seat, seat => seat with
        {
            Asked = false,
            MicrophoneOpen = answered.Agreed || seat.MicrophoneOpen,
            HasLeave = (answered.Agreed || sitting.Turn?.Seat == seat.Id) && seat.HasLeave,
            Consents = answered.Consents
        }),
        _ => sitting
    };
}
