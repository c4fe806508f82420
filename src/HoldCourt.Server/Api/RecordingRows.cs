using System.Collections.Immutable;
using HoldCourt.Server.Recording.Films;
using HoldCourt.Store.Recording;

namespace HoldCourt.Server.Api;

/// <param name="Length">In milliseconds.</param>
/// <param name="Size">In bytes.</param>
/// <param name="Flaw">Name of the reason why there is none.</param>
/// <param name="Cuts">What of the recording is left out.</param>
public sealed record FilmRow(
    Guid Id, Framing? Framing, bool Names, bool Questions, FilmState State, string? Flaw, FilmProgress? Progress, Instant AskedAt,
    long Length, long Size, ImmutableArray<CutRow> Cuts);

/// <summary>A passage of the recording, in its own time.</summary>
/// <param name="From">In milliseconds.</param>
public sealed record CutRow(long From, long To);

/// <param name="EndedAt">Null while it is being made.</param>
/// <param name="Size">Of its tracks, in bytes.</param>
/// <param name="DeletedAt">Since when it is in the wastebasket.</param>
public sealed record RecordingRow(
    Guid Id, Guid Session, string SessionTitle, string Name, string Shelf, Instant StartedAt, Instant? EndedAt, long Length, long Size,
    Watchers Watchers, Instant? DeletedAt, ImmutableArray<FilmRow> Films);

/// <summary>A stretch of real time.</summary>
public sealed record StretchRow(Instant From, Instant To);

/// <param name="At">In milliseconds of the film.</param>
public sealed record ChapterRow(long At, string Title);

/// <summary>Somebody speaks in a film.</summary>
/// <param name="From">In milliseconds of the film.</param>
public sealed record SpokenRow(long From, long To, string Name);

/// <summary>A line of what is said in a film.</summary>
/// <param name="Line">By which it is corrected.</param>
/// <param name="From">In milliseconds of the film.</param>
/// <param name="Name">Empty where it was not noted who spoke.</param>
/// <param name="Draft">By a machine, and not corrected by anybody.</param>
/// <param name="Corrected">Afterwards; its own words can be had back.</param>
public sealed record CueRow(int Line, long From, long To, string Name, string Text, bool Draft, bool Corrected);

/// <param name="TakenOut">Numbers of lines that were taken out, for whoever keeps the recording.</param>
public sealed record TranscriptPage(ImmutableArray<CueRow> Cues, ImmutableArray<int> TakenOut);

/// <param name="Text">Empty to take the line out; null for its own words.</param>
public sealed record LineWish(string? Text);

/// <summary>What somebody said about being recorded.</summary>
public sealed record ConsentRow(Instant At, SeatId Seat, string Name, RecordingAnswer Answer, bool Erased);

/// <param name="EndsAt">Null for no end.</param>
public sealed record LinkRow(Guid Id, Instant MadeAt, Instant? EndsAt, bool HasPasscode);

/// <summary>A recording, for whoever may see it.</summary>
/// <param name="Keeps">May rename, share, delete and compose it anew.</param>
/// <param name="Film">The one that is looked at; null while there is none.</param>
/// <param name="Peaks">The loudest of each tenth of a second, 0 to 255, in Base64.</param>
/// <param name="Consents">For whoever keeps it.</param>
/// <param name="Links">For whoever keeps it.</param>
/// <param name="Tracks">Whose tracks there are, for whoever keeps it.</param>
/// <param name="Stretches">Of real time that are in the film, in order.</param>
public sealed record RecordingPage(
    RecordingRow Recording, Guid Sitting, ImmutableArray<StretchRow> Stretches, bool Keeps, Guid? Film,
    ImmutableArray<ChapterRow> Chapters, ImmutableArray<SpokenRow> Spoken, string Peaks,
    ImmutableArray<ConsentRow> Consents, ImmutableArray<LinkRow> Links, ImmutableArray<TrackRow> Tracks);

/// <param name="Bytes">Of all that was recorded of this person.</param>
public sealed record TrackRow(SeatId Seat, string Name, long Bytes);

public sealed record RecordingWish(string Name, string Shelf, Watchers Watchers);

/// <param name="Framing">Null for the one that was chosen while it ran.</param>
public sealed record FilmWish(Framing? Framing, bool Names, bool Questions, ImmutableArray<CutRow>? Cuts = null);

/// <summary>Parts that are left out of a film without making it anew.</summary>
/// <param name="Looks">Only tells where they would begin and end.</param>
public sealed record FilmCut(ImmutableArray<CutRow> Parts, bool Looks = false);

/// <param name="Parts">As they are left out, at key frames.</param>
/// <param name="Film">The new one; null when it was only looked.</param>
public sealed record FilmCutMade(ImmutableArray<CutRow> Parts, Guid? Film);

/// <summary>A recording, where something else leads to it.</summary>
/// <param name="Ready">There is a film.</param>
/// <param name="Length">In milliseconds.</param>
public sealed record HeldRecording(Guid Id, string Name, long Length, bool Ready);

/// <param name="Days">For how long; null for no end.</param>
public sealed record LinkWish(int? Days, string? Passcode);

/// <param name="Link">Path and fragment; its secret is told this once.</param>
public sealed record MadeLink(string Link);

public sealed record OpenLink(string Secret, string? Passcode = null);

/// <param name="Recording">Null while the passcode is missing or wrong.</param>
public sealed record OpenedLink(Guid? Recording, bool NeedsPasscode);
