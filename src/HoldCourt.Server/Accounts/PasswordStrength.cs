using HoldCourt.Store.Accounts;
using Microsoft.AspNetCore.Identity;

namespace HoldCourt.Server.Accounts;

/// <summary>How long guessing a password would take whoever has stolen its hash.</summary>
public enum Strength { Weak, Fair, Good, Strong }

/// <summary>
/// Judges passwords by how soon they would be guessed rather than by what letters they have: known passwords, names, words,
/// dates, rows of keys and repetitions are found (Wheeler, "zxcvbn: Low-Budget Password Strength Estimation", USENIX
/// Security 2016).
/// </summary>
internal sealed class PasswordStrength : IPasswordValidator<Account>
{
    /// <summary>In UTF-16 units.</summary>
    public const int Shortest = 10, Longest = 256;

    /// <summary>Longer ones are judged by their beginning: what judging costs grows by the square.</summary>
    private const int Judged = 48;

    /// <summary>The score below which a password is refused, from 0 to 4.</summary>
    private const int LeastScore = 2;

    /// <summary>Keeps its lists of words, 7 MB; made anew for each password they would be three quarters of what judging costs.</summary>
    private static readonly Zxcvbn.Zxcvbn _judge = new();

    /// <param name="about">Words that whoever guesses would try first: name and address.</param>
    public static Strength Of(string password, params IEnumerable<string?> about)
    {
        if (password.Length < Shortest) return Strength.Weak;
        var words = about.OfType<string>()
            .SelectMany(word => word.Split([' ', '@', '.', '-'], StringSplitOptions.RemoveEmptyEntries).Append(word))
            .Where(word => word.Length > 2).Append("hold court").Append("holdcourt");
        return _judge.EvaluatePassword(password.Length > Judged ? password[..Judged] : password, words).Score switch
        {
            < LeastScore => Strength.Weak,
            2 => Strength.Fair,
            3 => Strength.Good,
            _ => Strength.Strong
        };
    }

    /// <summary>Why a password is not taken, as the name of a sentence; null when it is.</summary>
    public static string? Refuses(string? password, params IEnumerable<string?> about) => password switch
    {
        null or { Length: < Shortest } => "passwordTooShort",
        { Length: > Longest } => "passwordTooLong",
        _ => Of(password, about) == Strength.Weak ? "passwordTooWeak" : null
    };

    public Task<IdentityResult> ValidateAsync(UserManager<Account> manager, Account user, string? password) =>
        Task.FromResult(Refuses(password, user.Name, user.Email) is { } reason
            ? IdentityResult.Failed(new IdentityError { Code = reason, Description = reason })
            : IdentityResult.Success);
}
