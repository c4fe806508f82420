namespace HoldCourt.Core.CommandLine;

/// <summary>
/// The sentences and words of the command line in a language, each by the English one. Slots keep their order, since a
/// sentence's command takes them in it; names are written as they stand on the board.
/// </summary>
internal sealed class Tongue
{
    private static readonly Tongue _english = new(new Dictionary<string, string>()), _polish = new(Polish.Words);
    private readonly IReadOnlyDictionary<string, string> _words;

    private Tongue(IReadOnlyDictionary<string, string> words) => _words = words;

    public bool IsEnglish => _words.Count == 0;

    public static Tongue Of(string language) => language == "pl" ? _polish : _english;

    /// <summary>What stands for an English sentence or word; itself where it is the same.</summary>
    public string Says(string english) => _words.GetValueOrDefault(english, english);
}
