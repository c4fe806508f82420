using System.Collections.Immutable;

namespace HoldCourt.Core.Recording;

/// <summary>Somebody who is in a recording at a time.</summary>
public sealed record ScenePerson(SeatId Seat, string Name, bool Camera, bool Microphone);

/// <summary>What is before all at a time.</summary>
/// <param name="Pages">Null for a screen.</param>
public sealed record SceneExhibit(int Number, ExhibitKind Kind, string Title, SeatId By, Pages? Pages);

/// <summary>A message that is shown to all.</summary>
public sealed record SceneMessage(string Name, string Text);

/// <summary>What can be seen and heard from a moment on, up to the next scene.</summary>
/// <param name="People">Those who are recorded and whom all may see, the host first.</param>
/// <param name="Floor">Who has it, of those who are in it.</param>
public sealed record Scene(
    Instant At, Framing Framing, bool Names, bool Questions, ImmutableArray<ScenePerson> People, SeatId? Floor,
    ImmutableArray<SceneExhibit> Shown, SceneMessage? Message)
{
    internal static Scene Of(Sitting sitting, Instant at, IReadOnlySet<SeatId> erased)
    {
        bool IsIn(Seat seat) =>
            sitting.IsRecorded(seat) && !erased.Contains(seat.Id) && sitting.MayKnow(Viewer.Attendee, new Matter.Person(seat));
        var message = sitting.PutUp is { } number ? sitting.Message(number) : null;
        var writer = message is null ? null : sitting.Seats[message.From];
        return new Scene(
            at, sitting.RecordingRules.Framing, sitting.RecordingRules.Names, sitting.RecordingRules.Questions,
            [.. sitting.Seats.Where(IsIn).OrderByDescending(seat => seat.Id == sitting.Host).ThenBy(seat => seat.Id)
                .Select(seat => new ScenePerson(seat.Id, seat.Name, seat.CameraOn, seat.MicrophoneOpen))],
            sitting.Turn is { Seat: var floor } && IsIn(sitting.Seats[floor]) ? floor : null,
            [.. sitting.Shelf.Shown.Select(sitting.Shelf.Find).OfType<Exhibit>()
                .Where(exhibit => exhibit.Kind != ExhibitKind.Screen || IsIn(sitting.Seats[exhibit.By]))
                .Select(exhibit => new SceneExhibit(exhibit.Number, exhibit.Kind, exhibit.Title, exhibit.By, exhibit.Pages))],
            message is not null && IsIn(writer!) && sitting.MayKnow(Viewer.Attendee, new Matter.Words(message))
                ? new SceneMessage(sitting.MayKnow(Viewer.Attendee, new Matter.Writer(message)) ? writer!.Name : "", message.Text)
                : null);
    }

    /// <summary>Looks the same, whenever it is.</summary>
    internal bool LooksLike(Scene other) =>
        (Framing, Names, Questions, Floor, Message) == (other.Framing, other.Names, other.Questions, other.Floor, other.Message)
        && People.SequenceEqual(other.People) && Shown.SequenceEqual(other.Shown);
}

public enum ChapterKind { Begin, Item, Floor, Exhibit, Part }

/// <summary>A place of a recording that one may want to find.</summary>
/// <param name="Title">Of the item or the exhibit, or the name of who has the floor; empty for the beginning and for what follows a
/// pause.</param>
public sealed record Chapter(Instant At, ChapterKind Kind, string Title);

/// <summary>What somebody said about being recorded, and when.</summary>
public sealed record Consent(Instant At, SeatId Seat, string Name, RecordingAnswer Answer, bool Erased);

/// <summary>Words of somebody who is in the recording.</summary>
/// <param name="Number">Of the line in its sitting.</param>
/// <param name="Heard">When they began to be heard.</param>
/// <param name="Name">Of the speaker; empty where that was not noted.</param>
/// <param name="Draft">By a machine, and not corrected by anybody.</param>
public sealed record SpokenLine(int Number, Instant Heard, SeatId? Speaker, string Name, string Text, bool Draft);

/// <summary>
/// All of a recording that the entries of its sitting tell: when it ran, what was before all, who was in it. A pure function of the
/// entries, so that a film can be composed again and again.
/// </summary>
/// <param name="Stretches">In order.</param>
/// <param name="Scenes">In order; one begins with each stretch.</param>
/// <param name="Lines">What those said who are in it, in the order in which it was heard.</param>
public sealed record Score(
    string Title, ImmutableArray<Stretch> Stretches, ImmutableArray<Scene> Scenes, ImmutableArray<Chapter> Chapters,
    ImmutableArray<Consent> Consents, ImmutableArray<SpokenLine> Lines)
{
    /// <param name="entries">Of the whole sitting, in order.</param>
    /// <param name="recording">Its number.</param>
    /// <param name="alsoErased">Those of whom nothing is shown, beside those who said so themselves.</param>
    public static Score Of(IReadOnlyList<Entry> entries, int recording, IEnumerable<SeatId>? alsoErased = null)
    {
        var erased = entries.Select(entry => entry.Fact).OfType<RecordingAnswered>().Where(fact => fact.Erased == recording)
            .Select(fact => fact.Seat).Concat(alsoErased ?? []).ToHashSet();
        var (scenes, chapters, consents) = (ImmutableArray.CreateBuilder<Scene>(), ImmutableArray.CreateBuilder<Chapter>(),
            ImmutableArray.CreateBuilder<Consent>());
        var (sitting, stretches, runs, words) = (Sitting.Empty, ImmutableArray<Stretch>.Empty, false, new SpokenWords());
        foreach (var entry in entries)
        {
            var before = sitting;
            sitting = SittingRules.Evolve(sitting, entry);
            words.Follow(before, sitting, entry);
            if (entry.Fact is RecordingAnswered answered && (sitting.Recorder?.Number ?? 0) <= recording)
                consents.Add(new Consent(
                    entry.At, answered.Seat, sitting.Seats[answered.Seat].Name, answered.To, answered.Erased is not null));
            if (sitting.Recorder is not { } recorder || recorder.Number != recording)
            {
                if (sitting.Recorder?.Number > recording) break;
                continue;
            }
            stretches = recorder.Stretches;
            var ran = runs;
            runs = sitting.IsRecorded();
            if (!runs) continue;
            var begins = !ran || before.Recorder?.RunsSince != recorder.RunsSince;
            var scene = Scene.Of(sitting, begins ? recorder.RunsSince!.Value : entry.At, erased);
            if (begins || !scene.LooksLike(scenes[^1])) scenes.Add(scene);
            if (begins) chapters.Add(new Chapter(scene.At, stretches.IsEmpty ? ChapterKind.Begin : ChapterKind.Part, ""));
            chapters.AddRange(ChaptersOf(before, sitting, scene, entry.At));
        }
        // Whatever was still running when the entries end is told by them alone.
        if (sitting.Recorder is { RunsSince: { } since, Number: var number } && number == recording && entries.Count > 0)
            stretches = stretches.Add(new Stretch(since, entries[^1].At));
        return new Score(
            sitting.Title, stretches, scenes.ToImmutable(), chapters.ToImmutable(), consents.ToImmutable(), words.In(stretches, scenes));
    }

    private static IEnumerable<Chapter> ChaptersOf(Sitting before, Sitting after, Scene scene, Instant at)
    {
        if (after.RunSheet.Now is { } item && item.Id != before.RunSheet.At) yield return new Chapter(at, ChapterKind.Item, item.Title);
        if (scene.Floor is { } floor && before.Turn?.Seat != floor)
            yield return new Chapter(at, ChapterKind.Floor, after.Seats[floor].Name);
        foreach (var exhibit in scene.Shown)
            if (!before.Shelf.Shown.Contains(exhibit.Number))
                yield return new Chapter(at, ChapterKind.Exhibit, Shelves.NameOf(exhibit.Number, exhibit.Title));
    }
}
