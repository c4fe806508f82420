using Microsoft.Data.Sqlite;

namespace HoldCourt.Store;

/// <summary>Failures that are the disk's or the database's, and not those of what was to be written.</summary>
public static class StoreFailure
{
    /// <summary>Busy, locked, read-only, an I/O error, full, or not to be opened (SQLite's primary result codes).</summary>
    public static bool Is(Exception e) => CodeOf(e) is 5 or 6 or 8 or 10 or 13 or 14 || IsFull(e);

    /// <summary>There is no room: SQLite says so (13), or an error while writing (10); or the system does (ENOSPC, EDQUOT).</summary>
    public static bool IsFull(Exception e) =>
        CodeOf(e) is 10 or 13 || All(e).OfType<IOException>().Any(one => (one.HResult & 0xffff) is 28 or 122);

    private static int? CodeOf(Exception e) => All(e).OfType<SqliteException>().FirstOrDefault()?.SqliteErrorCode;

    private static IEnumerable<Exception> All(Exception e)
    {
        for (var one = e; one is not null; one = one.InnerException) yield return one;
    }
}
