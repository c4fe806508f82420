using System.Collections.Immutable;

namespace HoldCourt.Core.Polls;

/// <summary>How a question is answered.</summary>
public enum PollKind
{
    YesOrNo,
    TrueOrFalse,

    /// <summary>One of the options.</summary>
    One,

    /// <summary>Several of the options, at most <see cref="PollForm.Most"/>.</summary>
    Several,

    /// <summary>A whole number from <see cref="PollForm.Low"/> to <see cref="PollForm.High"/>.</summary>
    Scale,

    /// <summary>Any number, between <see cref="PollForm.Low"/> and <see cref="PollForm.High"/> where they are set.</summary>
    Number,

    /// <summary>In one's own words; those that are alike are counted together.</summary>
    Words,

    /// <summary>The options in the order in which one prefers them, counted by <see cref="InstantRunoff"/>.</summary>
    Preference
}

/// <summary>Who may vote. It holds for whoever is inside when the poll is opened.</summary>
/// <param name="Groups">Of the docket; empty asks for none. Whoever is not surely of one of them may not vote.</param>
/// <param name="Named">These people alone; empty asks for none.</param>
public sealed record Electorate(
    bool Attendees, bool Presenters, bool Bench, ImmutableArray<string> Groups, ImmutableArray<SeatId> Named)
{
    public static Electorate Everybody { get; } = new(Attendees: true, Presenters: true, Bench: true, Groups: [], Named: []);

    public bool Equals(Electorate? other) => other is not null
        && (Attendees, Presenters, Bench) == (other.Attendees, other.Presenters, other.Bench)
        && Groups.SequenceEqual(other.Groups) && Named.SequenceEqual(other.Named);

    public override int GetHashCode() => HashCode.Combine(Attendees, Presenters, Bench, Groups.Length, Named.Length);

    internal bool Holds(Sitting sitting, Seat seat) => seat.IsSeated && Powers.VotesBy(seat, this)
        && (Groups is [] || (sitting.GroupOf(seat) is { } group && Groups.Contains(group, StringComparer.OrdinalIgnoreCase)))
        && (Named is [] || Named.Contains(seat.Id));
}

/// <summary>A question that is put to people, before anybody has answered.</summary>
/// <param name="Text">Empty when it is spoken alone.</param>
/// <param name="Options">Of the kinds that choose among some; empty for the others.</param>
/// <param name="Most">Of <see cref="PollKind.Several"/>; null for as many as there are.</param>
/// <param name="Secret">Nobody can find out who chose what.</param>
/// <param name="Late">Whoever comes in while it is open may vote, too.</param>
/// <param name="Seconds">After so long it closes by itself; null leaves it open.</param>
/// <param name="Quorum">So many must take part for it to count; null asks for none.</param>
public sealed record PollForm(
    string Text, PollKind Kind, ImmutableArray<string> Options, int? Most, double? Low, double? High, bool Secret,
    Electorate Who, bool Late, int? Seconds, int? Quorum)
{
    /// <summary>In UTF-16 units.</summary>
    public const int LongestText = 400, LongestOption = 120;

    public const int MostOptions = 12, LongestScale = 10, ShortestSeconds = 10, LongestSeconds = 86_400;

    /// <summary>Of fewer answers each could be guessed by whoever gave the others: so many must be able to vote in secret, and must
    /// vote.</summary>
    public const int LeastInSecret = 3;

    private const double Largest = 1e12;

    public static PollForm Of(PollKind kind, string text = "", params ImmutableArray<string> options) => new(
        text, kind, options, Most: null, Low: kind == PollKind.Scale ? 1 : null, High: kind == PollKind.Scale ? 5 : null, Secret: false,
        Who: Electorate.Everybody, Late: false, Seconds: null, Quorum: null);

    /// <summary>It chooses among options that whoever asks has written.</summary>
    public static bool TakesOptions(PollKind kind) => kind is PollKind.One or PollKind.Several or PollKind.Preference;

    /// <summary>How many can be chosen among.</summary>
    internal int Count => Kind is PollKind.YesOrNo or PollKind.TrueOrFalse ? 2 : Options.Length;

    /// <summary>Why it cannot be asked, or null.</summary>
    internal Refusal? Refuses()
    {
        if (Text.Length > LongestText || Options.Any(option => option.Length > LongestOption))
            return new Refusal(Reason.WordsTooLong, Remedy.Shorten);
        if (Seconds is < ShortestSeconds or > LongestSeconds) return new Refusal(Reason.PollTimeOutOfRange);
        if (Quorum is < 1 or > Bounds.MostItems) return new Refusal(Reason.NotUnderstood);
        if (Who is { Attendees: false, Presenters: false, Bench: false }) return new Refusal(Reason.NobodyMayVote);
        if (Text.Length == 0 && Kind is not (PollKind.YesOrNo or PollKind.TrueOrFalse or PollKind.One))
            return new Refusal(Reason.PollWithoutQuestion);
        return TakesOptions(Kind) ? RefusesOptions() : RefusesRange();
    }

    private Refusal? RefusesOptions()
    {
        if (Options.Length < 2 || Options.Any(option => option.Length == 0)) return new Refusal(Reason.PollWithoutOptions);
        if (Options.Length > MostOptions) return new Refusal(Reason.TooManyOptions);
        if (Options.Distinct(StringComparer.OrdinalIgnoreCase).Count() < Options.Length) return new Refusal(Reason.OptionTwice);
        return Kind == PollKind.Several && Most is { } most && (most < 1 || most > Options.Length)
            ? new Refusal(Reason.NotUnderstood)
            : null;
    }

    private Refusal? RefusesRange() => Kind switch
    {
        PollKind.Scale when Low is not { } low || High is not { } high || low != Math.Floor(low) || high != Math.Floor(high) || low < 0
            || high - low is < 1 or > LongestScale => new Refusal(Reason.ScaleOutOfRange),
        PollKind.Number when Low is { } low && High is { } high && low >= high => new Refusal(Reason.ScaleOutOfRange),
        PollKind.Number when Math.Abs(Low ?? 0) > Largest || Math.Abs(High ?? 0) > Largest => new Refusal(Reason.ScaleOutOfRange),
        _ => null
    };

    /// <summary>As it may be kept: what its kind has no use for is gone.</summary>
    internal PollForm Clean() => this with
    {
        Text = Bounds.Clean(Text, lines: false),
        Options = TakesOptions(Kind) ? [.. Options.Select(option => Bounds.Clean(option, lines: false))] : [],
        Most = Kind == PollKind.Several ? Most : null,
        Low = Kind is PollKind.Scale or PollKind.Number ? Low : null,
        High = Kind is PollKind.Scale or PollKind.Number ? High : null
    };

    public bool Equals(PollForm? other) => other is not null
        && (Text, Kind, Most, Low, High, Secret) == (other.Text, other.Kind, other.Most, other.Low, other.High, other.Secret)
        && (Late, Seconds, Quorum) == (other.Late, other.Seconds, other.Quorum)
        && Who == other.Who && Options.SequenceEqual(other.Options);

    public override int GetHashCode() => HashCode.Combine(Text, Kind, Options.Length, Secret);

    /// <summary>Beyond it a number is a slip of the hand.</summary>
    internal static bool IsReasonable(double number) => double.IsFinite(number) && Math.Abs(number) <= Largest;
}

/// <summary>What somebody answers. All empty is an abstention.</summary>
/// <param name="Options">Numbers of options from 0: one, several in rising order, or all in the order of preference.</param>
public sealed record Choice(ImmutableArray<int> Options, double? Number, string? Text)
{
    /// <summary>In UTF-16 units.</summary>
    public const int LongestText = 300;

    public static Choice Abstention { get; } = new([], null, null);

    public static Choice Of(params ImmutableArray<int> options) => new(options, null, null);

    internal bool Abstains => Options is [] && Number is null && Text is null;

    public bool Equals(Choice? other) =>
        other is not null && Options.SequenceEqual(other.Options) && Number.Equals(other.Number) && Text == other.Text;

    public override int GetHashCode() => HashCode.Combine(Options.Length, Number, Text);

    /// <summary>The answer as it is counted, or why it is none to this question.</summary>
    internal (Choice? Clean, Refusal? Refusal) For(PollForm form)
    {
        if (Abstains) return (Abstention, null);
        return form.Kind switch
        {
            PollKind.Words => Worded(),
            PollKind.Number or PollKind.Scale => Numbered(form),
            _ => Chosen(form)
        };
    }

    private static readonly Refusal _isNone = new(Reason.NotUnderstood);

    private (Choice?, Refusal?) Worded()
    {
        var text = Bounds.Clean(Text, lines: false);
        return text.Length == 0 ? (null, new Refusal(Reason.AnswerEmpty))
            : text.Length > LongestText ? (null, new Refusal(Reason.AnswerTooLong, Remedy.Shorten))
            : (new Choice([], null, text), null);
    }

    private (Choice?, Refusal?) Numbered(PollForm form)
    {
        if (Number is not { } number || !PollForm.IsReasonable(number)) return (null, _isNone);
        if (number < form.Low || number > form.High) return (null, new Refusal(Reason.AnswerOutOfRange));
        return form.Kind == PollKind.Scale && number != Math.Floor(number) ? (null, _isNone) : (new Choice([], number, null), null);
    }

    private (Choice?, Refusal?) Chosen(PollForm form)
    {
        if (Options is [] || Options.Any(option => option < 0 || option >= form.Count)
            || Options.Distinct().Count() < Options.Length) return (null, _isNone);
        return form.Kind switch
        {
            PollKind.Preference => (Of(Options), null),
            PollKind.Several when Options.Length <= (form.Most ?? form.Count) => (Of([.. Options.Order()]), null),
            PollKind.Several => (null, new Refusal(Reason.TooManyChosen)),
            _ => Options.Length == 1 ? (Of(Options), null) : (null, _isNone)
        };
    }
}
