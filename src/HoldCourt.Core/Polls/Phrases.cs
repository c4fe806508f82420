using System.Collections.Immutable;
using System.Globalization;
using static HoldCourt.Core.CommandLine.Saying;

namespace HoldCourt.Core.Polls;

/// <summary>What the command line understands of this topic.</summary>
internal static class PollPhrases
{
    public static Vocabulary All { get; } = new(
    [
        Say<OpenPoll>("open poll {number}", "otwórz głosowanie {number}", (s, a) => Prepared(s, (int)a[0])),
        Say<ClosePoll>("close the poll", "zamknij głosowanie", (_, _) => new ClosePoll()),
        Say<DropPoll>("call the poll off", "odwołaj głosowanie", (_, _) => new DropPoll()),
        Say<GivePollTime>("poll goes on for {length}", "głosowanie trwa jeszcze {length}", (_, a) => new GivePollTime(Seconds(a[0]))),
        Say<ShowResult>("show the result of poll {number}", "pokaż wynik głosowania {number}", (_, a) => new ShowResult((int)a[0], true)),
        Say<ShowResult>("hide the result of poll {number}", "ukryj wynik głosowania {number}", (_, a) => new ShowResult((int)a[0], false)),
        Say<PreparePolls>("prepare poll {poll}", "przygotuj głosowanie {poll}",
            (s, a) => new PreparePolls([.. Known(s), (PollForm)a[0]])),
        Say<OpenPoll>("poll {poll}", "głosowanie {poll}", (_, a) => new OpenPoll((PollForm)a[0])),
        Say<Vote>("vote {text}", "głosuję {text}", (s, a) => Answer(s, ((string)a[0]).Trim()))
    ]);

    private static OpenPoll? Prepared(Scope scope, int number) =>
        Known(scope).ElementAtOrDefault(number - 1) is { } form ? new OpenPoll(form) : null;

    private static ImmutableArray<PollForm> Known(Scope scope) => scope.Knows(Matter.Books) ? scope.Sitting.Polls.Prepared : [];

    private static readonly Said _yes = new("yes", "tak"), _no = new("no", "nie"), _true = new("true", "prawda"),
        _false = new("false", "fałsz"), _abstain = new("nothing", "nic");

    /// <summary>In a secret poll one votes on the card: the ballot's token is made there, and stays there.</summary>
    private static Vote? Answer(Scope scope, string words)
    {
        if (scope.Sitting.Polls.Open is not { Form: { Secret: false } form } poll) return null;
        bool Is(Said said) => words.Equals(said.In(scope.Language), StringComparison.OrdinalIgnoreCase);
        var choice = Is(_abstain) ? Choice.Abstention : form.Kind switch
        {
            PollKind.YesOrNo => Is(_yes) ? Choice.Of(0) : Is(_no) ? Choice.Of(1) : null,
            PollKind.TrueOrFalse => Is(_true) ? Choice.Of(0) : Is(_false) ? Choice.Of(1) : null,
            PollKind.Words => new Choice([], null, words),
            PollKind.Number or PollKind.Scale => double.TryParse(
                words, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) ? new Choice([], number, null) : null,
            _ => Among(form, words)
        };
        return choice is null ? null : new Vote(poll.Number, choice);
    }

    private static Choice? Among(PollForm form, string words)
    {
        ImmutableArray<int> options =
            [.. words.Split('/', StringSplitOptions.TrimEntries).Select(word => form.Options.ToList().FindIndex(option =>
                option.Equals(word, StringComparison.OrdinalIgnoreCase)))];
        return options.Contains(-1) ? null : Choice.Of(options);
    }
}
