using System.Collections.Concurrent;
using System.Globalization;
using System.Text.Json;

namespace HoldCourt.Server.Texts;

/// <summary>The sentences of mail and of saved files in a language; they stand beside it, a file for each.</summary>
internal sealed class ServerTexts
{
    private static readonly string[] _languages = ["en", "pl"];
    private static readonly ConcurrentDictionary<string, ServerTexts> _known = new();
    private readonly Dictionary<string, string> _texts;
    private readonly CultureInfo _culture;

    private ServerTexts(string language)
    {
        var file = Path.Combine(AppContext.BaseDirectory, "Texts", language + ".json");
        _texts = JsonSerializer.Deserialize<Dictionary<string, string>>(File.ReadAllText(file))
            ?? throw new InvalidDataException($"{file} is empty.");
        _culture = CultureInfo.GetCultureInfo(language);
    }

    public static bool Knows(string language) => _languages.Contains(language);

    /// <summary>English for a language that there is none for.</summary>
    public static ServerTexts In(string language) =>
        _known.GetOrAdd(Knows(language) ? language : _languages[0], static tag => new ServerTexts(tag));

    public string this[string key] => _texts[key];

    public string Say(string key, params object[] values) => string.Format(_culture, _texts[key], values);

    /// <summary>"Monday, 3 March 2031, 09:00".</summary>
    public string DateAndTime(DateTime local) => local.ToString("dddd, d MMMM yyyy, HH:mm", _culture);
}
