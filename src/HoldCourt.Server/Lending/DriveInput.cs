using System.Text.Json;

namespace HoldCourt.Server.Lending;

public enum DriveKind { Move, Button, Wheel, Key }

/// <summary>One movement of whoever drives somebody else's screen. See <c>docs/lending.md</c>.</summary>
/// <param name="X">Of a move, how far across the screen, 0 to 1; of a wheel, notches to the right, -10 to 10.</param>
/// <param name="Y">Of a move, how far down the screen, 0 to 1; of a wheel, notches down, -10 to 10.</param>
/// <param name="Button">1 the first, 2 the middle, 3 the second.</param>
/// <param name="Down">Of a button or key: pressed, and not let go.</param>
/// <param name="Code">Of a key: its place on the keyboard, as in the W3C's UI Events <c>code</c>, such as <c>KeyA</c>.</param>
public sealed record DriveInput(DriveKind Is, double X = 0, double Y = 0, int Button = 0, bool Down = false, string? Code = null)
{
    public const int MostAtOnce = 40;

    private const int LongestCode = 24, MostNotches = 10;

    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsMeaningful => Is switch
    {
        DriveKind.Move => X is >= 0 and <= 1 && Y is >= 0 and <= 1,
        DriveKind.Button => Button is >= 1 and <= 3,
        DriveKind.Wheel => Math.Abs(X) <= MostNotches && Math.Abs(Y) <= MostNotches,
        DriveKind.Key => Code is { Length: > 0 and <= LongestCode } && Code.All(char.IsAsciiLetterOrDigit),
        _ => false
    };

    /// <summary>A line of the protocol.</summary>
    public string ToLine() => Is switch
    {
        DriveKind.Move => Line(new { @is = "move", x = X, y = Y }),
        DriveKind.Button => Line(new { @is = "button", button = Button, down = Down }),
        DriveKind.Wheel => Line(new { @is = "wheel", x = X, y = Y }),
        _ => Line(new { @is = "key", code = Code, down = Down })
    };

    private static string Line<T>(T value) => JsonSerializer.Serialize(value, CoreJson.Options);
}
