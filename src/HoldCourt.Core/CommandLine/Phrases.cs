using System.Collections.Immutable;

namespace HoldCourt.Core.CommandLine;

/// <summary>A sentence in one language.</summary>
public sealed class Phrase
{
    private readonly Sentence _sentence;

    internal Phrase(Sentence sentence, string language)
    {
        (_sentence, Pattern) = (sentence, sentence.Pattern.In(language));
        Elements = [.. Pattern.Split(' ')
            .Select(part => part[0] == '{' ? ((string?)null, (Slot?)Phrases.SlotOf(part[1..^1], language)) : (part, null))];
    }

    /// <summary>Words, and slots in braces.</summary>
    public string Pattern { get; }

    /// <summary>The type of the command it stands for.</summary>
    public Type Of => _sentence.Of;

    internal ImmutableArray<(string? Word, Slot? Slot)> Elements { get; }

    internal SeatCommand? Make(Scope scope, ImmutableArray<object> values) => _sentence.Make(scope, values);
}

/// <summary>The sentences of the command line, those of all topics. Every command that a person may send has one.</summary>
public static class Phrases
{
    private static readonly ImmutableArray<Vocabulary> _topics =
    [
        AdmissionPhrases.All, DocketPhrases.All, PeoplePhrases.All, OrderPhrases.All, FloorPhrases.All, SignPhrases.All,
        ChatPhrases.All, PicturePhrases.All, ExhibitPhrases.All, HandoutPhrases.All, LendingPhrases.All, TimingPhrases.All,
        RunSheetPhrases.All, RecordingPhrases.All, CaptionPhrases.All, PollPhrases.All, RoomPhrases.All, LedgerPhrases.All
    ];

    private static readonly Dictionary<string, Choice> _choices = _topics.SelectMany(topic => topic.Choices)
        .ToDictionary(choice => choice.Slot);

    private static readonly Dictionary<string, ImmutableArray<Phrase>> _byLanguage = Said.Languages.ToDictionary(
        language => language,
        language => _topics.SelectMany(topic => topic.Sentences).Select(sentence => new Phrase(sentence, language)).ToImmutableArray());

    /// <param name="language">English stands for one without sentences.</param>
    public static ImmutableArray<Phrase> In(string language) => _byLanguage.GetValueOrDefault(language, _byLanguage["en"]);

    internal static Slot SlotOf(string name, string language) => name switch
    {
        "people" => new People(),
        "comers" => new People(OfThoseWhoWait: true),
        "person" => new OnePerson(),
        "length" => new Length(),
        "number" => new WholeNumber(),
        "item" => new AnItem(),
        "exhibit" => new AnExhibit(),
        "handout" => new AHandout(),
        "preset" => new APreset(),
        "group" => new AGroup(),
        "poll" => new PollText(),
        "room" => new ARoom(),
        "text" => new FreeText(),
        _ => new OneOf([.. _choices[name].Words.Select(one => (one.Words.In(language), one.Value))])
    };
}
