using System.Collections.Immutable;

namespace HoldCourt.Core.CommandLine;

/// <summary>
/// A sentence or a word in each language, side by side. Slots keep their order, since a sentence's command takes them in it; people are
/// named as they stand on the board.
/// </summary>
internal readonly record struct Said(string English, string Polish)
{
    public static ImmutableArray<string> Languages { get; } = ["en", "pl"];

    /// <param name="language">A subtag of BCP 47; English stands for those that are not here.</param>
    public string In(string language) => language == "pl" ? Polish : English;
}

/// <summary>What the command line understands of one topic. Its folder holds it, in <c>Phrases.cs</c>.</summary>
/// <param name="Sentences">Of several that fit a line the first is meant.</param>
/// <param name="Choices">The slots that take one of a few words.</param>
internal sealed record Vocabulary(ImmutableArray<Sentence> Sentences, ImmutableArray<Choice> Choices)
{
    public Vocabulary(ImmutableArray<Sentence> sentences) : this(sentences, []) { }
}

/// <summary>A sentence and the command it stands for.</summary>
/// <param name="Pattern">Words, and slots in braces.</param>
/// <param name="Of">The command's type.</param>
/// <param name="Make">The command of the slots' values, in their order; null when they make none.</param>
internal sealed record Sentence(Said Pattern, Type Of, Func<Scope, ImmutableArray<object>, SeatCommand?> Make);

/// <summary>A slot that takes one of a few words, and what each of them means.</summary>
/// <param name="Words">Of several for one value the first is proposed.</param>
internal sealed record Choice(string Slot, ImmutableArray<(Said Words, object Value)> Words);

/// <summary>In these words the topics list what they understand.</summary>
internal static class Saying
{
    public static Sentence Say<T>(string english, string polish, Func<Scope, ImmutableArray<object>, SeatCommand?> make) where T
        : SeatCommand =>
        new(new Said(english, polish), typeof(T), make);

    public static Choice Choose(string slot, params ImmutableArray<(string English, string Polish, object Value)> words) =>
        new(slot, [.. words.Select(one => (new Said(one.English, one.Polish), one.Value))]);

    public static ImmutableArray<SeatId> Seats(object value) => (ImmutableArray<SeatId>)value;
    public static int Seconds(object value) => (int)((TimeSpan)value).TotalSeconds;
    public static int Minutes(object value) => Math.Max(1, (int)Math.Round(((TimeSpan)value).TotalMinutes));
}
