using System.Collections.Immutable;
using System.Globalization;

namespace HoldCourt.Core.Polls;

/// <summary>
/// Answers by the keys of a telephone (0 to 9, * and #; ITU-T E.161). Options are numbered from 1, yes and true are 1, no and false are 2.
/// A * stands between several numbers, and is the decimal point of one that is asked for; # ends an answer, and alone abstains.
/// </summary>
public static class PollKeys
{
    public const char Ends = '#';

    private const char Between = '*';

    /// <summary>Longer than any answer.</summary>
    private const int Longest = 40;

    /// <returns>Null where the keys are no answer to this question; one in words cannot be given by keys.</returns>
    public static Choice? Read(PollForm form, string keys)
    {
        if (form.Kind == PollKind.Words && keys != "#") return null;
        if (keys.Length > Longest || !keys.EndsWith(Ends)) return null;
        var typed = keys[..^1];
        if (typed.Length == 0) return Choice.Abstention;
        return (form.Kind is PollKind.Number or PollKind.Scale ? Number(typed) : Options(typed))?.For(form).Clean;
    }

    private static Choice? Number(string typed) =>
        double.TryParse(typed.Replace(Between, '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number)
            ? new Choice([], number, null)
            : null;

    private static Choice? Options(string typed)
    {
        var options = ImmutableArray.CreateBuilder<int>();
        foreach (var key in typed.Split(Between))
        {
            if (!int.TryParse(key, NumberStyles.None, CultureInfo.InvariantCulture, out var number)) return null;
            options.Add(number - 1);
        }
        return Choice.Of(options.DrainToImmutable());
    }

    /// <summary>What is pressed for an answer; null where it cannot be given by keys.</summary>
    public static string? For(Choice choice)
    {
        if (choice.Text is not null || choice.Number < 0) return null;
        var typed = choice.Number is { } number
            ? number.ToString("0.##########", CultureInfo.InvariantCulture).Replace('.', Between)
            : string.Join(Between, choice.Options.Select(option => (option + 1).ToString(CultureInfo.InvariantCulture)));
        return typed + Ends;
    }
}
