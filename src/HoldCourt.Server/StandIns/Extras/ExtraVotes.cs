using System.Collections.Immutable;
using System.Security.Cryptography;

namespace HoldCourt.Server.StandIns.Extras;

/// <summary>What the simulated people answer: each by their number, so that a demo comes out alike each time.</summary>
internal static class ExtraVotes
{
    private const double FirstAfter = 1.5, Between = 0.8;

    private static readonly string[] _words = ["The weir", "Safer banks", "the weir", "More wardens", "The footpath"];

    /// <summary>Seconds after a poll has opened.</summary>
    public static double At(int number) => FirstAfter + (number % 20 * Between);

    /// <param name="byPhone">Presses keys; where an answer has none, abstains.</param>
    public static Vote Of(Poll poll, int number, bool byPhone)
    {
        var form = poll.Form;
        var choice = form.Kind switch
        {
            PollKind.Words => new Choice([], null, _words[number % _words.Length]),
            PollKind.Scale => new Choice([], form.Low!.Value + (((number * 7) + 3) % (form.High!.Value - form.Low.Value + 1)), null),
            PollKind.Number => new Choice([], Math.Clamp(3 + (number % 5), form.Low ?? 0, form.High ?? 100), null),
            PollKind.Several => Choice.Of([.. Enumerable.Range(0, Math.Min(2, form.Most ?? 2))
                .Select(more => (number + more) % form.Options.Length).Distinct()]),
            PollKind.Preference => Choice.Of(Ranked(form.Options.Length, number)),
            PollKind.One => Choice.Of(number * number % form.Options.Length),
            _ => Choice.Of(number % 3 == 2 ? 1 : 0)
        };
        if (byPhone) choice = PollKeys.Read(form, PollKeys.For(choice) ?? "#") ?? Choice.Abstention;
        return new Vote(poll.Number, choice, form.Secret ? Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)) : null);
    }

    /// <summary>Each leaves the last one out.</summary>
    private static ImmutableArray<int> Ranked(int options, int number) =>
        [.. Enumerable.Range(0, options).OrderBy(option => ((option * 5) + (number * number)) % (options + 2)).ThenBy(option => option)
            .Take(Math.Max(1, options - 1))];
}
