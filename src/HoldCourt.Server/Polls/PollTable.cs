using System.Globalization;
using HoldCourt.Server.Planning;

namespace HoldCourt.Server.Polls;

/// <summary>Results as a table (RFC 4180): a line for each answer, of an order of preference for each answer in each round.</summary>
internal static class PollTable
{
    private static readonly string[] _columns =
    [
        "poll", "question", "kind", "secret", "opened", "closed", "voters", "turnout", "abstained", "quorum", "round", "answer", "count",
        "people", "digest"
    ];

    public static byte[] Of(PollExport export) => Csv.Write(_columns, export.Polls.SelectMany(Lines));

    private static IEnumerable<string[]> Lines(ExportedPoll one)
    {
        var (poll, form, result) = (one.Poll, one.Poll.Form, one.Poll.Result);
        string[] Line(string round, string answer, int? count, string people) =>
        [
            Number(poll.Number), form.Text, CoreJson.NameOf(form.Kind), form.Secret ? "secret" : "named", Time(poll.OpenedAt),
            Time(poll.ClosedAt), Number(poll.Voters), Number(poll.Turnout), Number(result?.Abstained), Number(form.Quorum), round, answer,
            Number(count), people, poll.Digest ?? ""
        ];
        if (result is null) return [Line("", "", null, "")];
        if (result.Rounds.Length > 0)
            return result.Rounds.SelectMany((round, at) => round.Counts
                .Select((count, option) => (count, option)).Where(pair => pair.count is not null)
                .Select(pair => Line(Number(at + 1), form.Options[pair.option], pair.count, at == 0 ? People(one, pair.option) : "")));
        return result.Bars.Select(bar => Line("", Words(form, bar), bar.Count, People(one, bar)));
    }

    private static string Words(PollForm form, BarRow bar) => bar.Words ?? (bar.Option is { } option
        ? form.Kind switch
        {
            PollKind.YesOrNo => option == 0 ? "yes" : "no",
            PollKind.TrueOrFalse => option == 0 ? "true" : "false",
            _ => form.Options[option]
        }
        : bar.Number?.ToString(CultureInfo.InvariantCulture) ?? "");

    private static string People(ExportedPoll one, int first) =>
        Names(one.Votes.Where(vote => vote.Choice.Options is [var best, ..] && best == first));

    private static string People(ExportedPoll one, BarRow bar) => Names(one.Votes.Where(vote =>
        bar.Option is { } option ? vote.Choice.Options.Contains(option)
        : bar.Number is { } number ? vote.Choice.Number == number
        : bar.Words is { } words && vote.Choice.Text is { } text && PollCount.Folded(text) == PollCount.Folded(words)));

    private static string Names(IEnumerable<NamedVote> votes) => string.Join("; ", votes.Select(vote => vote.Name));

    private static string Number(int? number) => number?.ToString(CultureInfo.InvariantCulture) ?? "";

    private static string Time(Instant? at) => at is { } moment
        ? DateTimeOffset.FromUnixTimeMilliseconds(moment.Milliseconds)
            .ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", CultureInfo.InvariantCulture)
        : "";
}
