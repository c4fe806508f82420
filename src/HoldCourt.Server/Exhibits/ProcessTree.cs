using System.Globalization;

namespace HoldCourt.Server.Exhibits;

/// <summary>A process and all that it has started, as Linux tells of them in /proc (proc(5)).</summary>
internal static class ProcessTree
{
    private const long PageSize = 4_096;

    /// <summary>Bytes that they have in memory together; what they share counts for each. Null when that cannot be told.</summary>
    public static long? Memory(int root)
    {
        try
        {
            var parents = new Dictionary<int, (int Parent, long Pages)>();
            foreach (var folder in Directory.EnumerateDirectories("/proc"))
                if (int.TryParse(Path.GetFileName(folder), NumberStyles.None, CultureInfo.InvariantCulture, out var id)
                    && Of(folder) is { } found) parents[id] = found;
            return parents.Where(pair => IsOf(pair.Key)).Sum(pair => pair.Value.Pages) * PageSize;

            bool IsOf(int id)
            {
                for (var depth = 0; depth < 64 && id != root; depth++)
                    if (!parents.TryGetValue(id, out var one)) return false;
                    else id = one.Parent;
                return id == root;
            }
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException) { return null; }
    }

    /// <summary>Fields 4 and 24 of its line, counted from after the name, in which anything may stand.</summary>
    private static (int Parent, long Pages)? Of(string folder)
    {
        try
        {
            var line = File.ReadAllText(Path.Combine(folder, "stat"));
            var fields = line[(line.LastIndexOf(')') + 2)..].Split(' ');
            return (int.Parse(fields[1], CultureInfo.InvariantCulture), long.Parse(fields[21], CultureInfo.InvariantCulture));
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException or FormatException or IndexOutOfRangeException)
        {
            // It has just ended.
            return null;
        }
    }
}
