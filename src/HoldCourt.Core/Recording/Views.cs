using System.Collections.Immutable;

namespace HoldCourt.Core.Recording;

/// <param name="Name">Null where it may not be known who it is.</param>
public sealed record OwnRecorderRow(SeatId Seat, string? Name);

/// <summary>Whether this is recorded, and for whom: everybody is told, those too who wait.</summary>
/// <param name="Phase">Null before there was a recording.</param>
/// <param name="Recorded">Milliseconds that are in it, the stretch that is being recorded left out.</param>
/// <param name="RunsSince">Since when is recorded what goes on; null while nothing is.</param>
/// <param name="Own">Those who record on their own machines.</param>
/// <param name="Missing">The plan wants a recording, and nothing is recorded; for the bench alone.</param>
public sealed record RecordingFacet(
    int Number, RecordingPhase? Phase, long Recorded, Instant? RunsSince, RecordingRules Rules, bool Missing,
    ImmutableArray<OwnRecorderRow> Own)
    : IFacet<RecordingFacet>
{
    public static RecordingFacet Of(Sitting sitting, Viewpoint from)
    {
        var recorder = sitting.Recorder;
        var rules = sitting.RecordingRules;
        return new RecordingFacet(
            recorder?.Number ?? 0, recorder?.Phase, (long)(recorder?.Recorded.TotalMilliseconds ?? 0), recorder?.RunsSince,
            sitting.MayKnow(from, Matter.Inside)
                ? rules
                : RecordingRules.Usual with { AsksConsent = rules.AsksConsent, Watchers = rules.Watchers },
            sitting.MayKnow(from, Matter.Books) && sitting.Phase == Sittings.Phase.InSession && sitting.WantsRecording()
                && !sitting.IsRecorded(),
            [.. sitting.OwnRecorders.Select(id => sitting.Seats[id])
                .Select(seat => new OwnRecorderRow(seat.Id, sitting.MayKnow(from, new Matter.Person(seat)) ? seat.Name : null))]);
    }

    public static bool IsSame(Step step) => step.Before.Recorder == step.After.Recorder && step.Before.Phase == step.After.Phase
        && step.Before.RecordingRules == step.After.RecordingRules && ReferenceEquals(step.Before.RunSheet, step.After.RunSheet)
        && step.Before.OwnRecorders is [] && step.After.OwnRecorders is [];

    public static bool AltersRows(Step step) => step.Before.RecordingRules != step.After.RecordingRules;

    public bool Equals(RecordingFacet? other) =>
        other is not null && (Number, Phase, Recorded, RunsSince, Missing) ==
        (other.Number, other.Phase, other.Recorded, other.RunsSince, other.Missing)
        && Rules == other.Rules && Own.SequenceEqual(other.Own);

    public override int GetHashCode() => HashCode.Combine(Number, Phase, Recorded, RunsSince, Rules, Missing, Own.Length);
}
