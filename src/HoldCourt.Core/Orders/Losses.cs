using System.Collections.Immutable;

namespace HoldCourt.Core.Orders;

/// <summary>What a change of orders closes at once, and what its way back opens again.</summary>
internal static class Losses
{
    public static ImmutableArray<SeatId> Muted(Sitting after) =>
        [.. after.Seats.Where(seat => seat is { IsSeated: true, MicrophoneOpen: true } && !after.MaySpeak(seat)).Select(seat => seat.Id)];

    public static ImmutableArray<SeatId> Darkened(Sitting after) =>
        [.. after.Seats.Where(seat => seat is { IsSeated: true, CameraOn: true } && !after.MayShow(seat)).Select(seat => seat.Id)];

    public static ImmutableArray<SeatId> Reopened(Sitting after, ImmutableArray<SeatId> muted) =>
        after.Those(muted, seat => !seat.MicrophoneOpen && after.MaySpeak(seat));

    public static ImmutableArray<SeatId> Relit(Sitting after, ImmutableArray<SeatId> darkened) =>
        after.Those(darkened, seat => !seat.CameraOn && after.MayShow(seat));

    public static Sitting Apply(
        Sitting sitting, ImmutableArray<SeatId> muted, ImmutableArray<SeatId> darkened,
        ImmutableArray<SeatId> reopened, ImmutableArray<SeatId> relit) => sitting
        .WithEach(muted, seat => seat with { MicrophoneOpen = false })
        .WithEach(darkened, seat => seat with { CameraOn = false })
        .WithEach(reopened, seat => seat with { MicrophoneOpen = true })
        .WithEach(relit, seat => seat with { CameraOn = true });
}
