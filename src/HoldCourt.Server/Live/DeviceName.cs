namespace HoldCourt.Server.Live;

/// <summary>What somebody uses, in few words: "Firefox on Linux".</summary>
internal static class DeviceName
{
    /// <summary>Each name with the mark that tells it; the first that fits holds, since most browsers also claim to be others.</summary>
    private static readonly (string Mark, string Name)[] _browsers =
        [("Edg/", "Edge"), ("OPR/", "Opera"), ("Firefox/", "Firefox"), ("Chrome/", "Chromium"), ("Safari/", "Safari")];

    private static readonly (string Mark, string Name)[] _systems =
        [("iPhone", "iPhone"), ("iPad", "iPad"), ("Android", "Android"), ("Windows", "Windows"), ("CrOS", "ChromeOS"),
            ("Mac OS X", "macOS"), ("Linux", "Linux")];

    /// <returns>Null when nothing is known.</returns>
    public static string? Of(string? userAgent)
    {
        if (string.IsNullOrEmpty(userAgent)) return null;
        string? Find((string Mark, string Name)[] known) =>
            known.FirstOrDefault(pair => userAgent.Contains(pair.Mark, StringComparison.Ordinal)).Name;
        return (Find(_browsers), Find(_systems)) switch
        {
            ({ } browser, { } system) => $"{browser} on {system}",
            var (browser, system) => browser ?? system
        };
    }
}
