using System.IO.Compression;
using Microsoft.Data.Sqlite;

namespace HoldCourt.Server.Tests;

/// <summary>The demo's database as the version before the first release left it.</summary>
internal static class Older
{
    public static async Task<SqliteConnection> Open(string folder)
    {
        var file = Path.Combine(folder, "hold-court.db");
        await using (var kept = new GZipStream(
            File.OpenRead(Path.Combine(Repository.Root, "tests", "vectors", "demo-2026-12-01.db.gz")), CompressionMode.Decompress))
        await using (var to = File.Create(file))
            await kept.CopyToAsync(to);
        return await Of(file);
    }

    public static async Task<SqliteConnection> Of(string file)
    {
        var db = new SqliteConnection($"Data Source={file};Pooling=False");
        await db.OpenAsync();
        return db;
    }

    public static async Task Do(this SqliteConnection db, string sql)
    {
        await using var command = db.CreateCommand();
        command.CommandText = sql;
        await command.ExecuteNonQueryAsync();
    }

    public static async Task<List<string>> Lines(this SqliteConnection db, string sql)
    {
        await using var command = db.CreateCommand();
        command.CommandText = sql;
        await using var reader = await command.ExecuteReaderAsync();
        List<string> lines = [];
        while (await reader.ReadAsync())
            lines.Add(string.Join(" | ",
                Enumerable.Range(0, reader.FieldCount).Select(n => reader.IsDBNull(n) ? "-" : reader.GetValue(n))));
        return lines;
    }
}
