using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace HoldCourt.Server.Planning;

/// <summary>A table read from a file.</summary>
internal sealed record CsvTable(IReadOnlyList<string> Columns, IReadOnlyList<CsvRow> Rows)
{
    public bool Has(string column) => Columns.Contains(column);

    /// <summary>The trimmed cell under the first of these columns that the table has; null when it is empty.</summary>
    public string? Of(CsvRow row, params ReadOnlySpan<string> columns)
    {
        foreach (var column in columns)
            for (var at = 0; at < Columns.Count; at++)
                if (Columns[at] == column && at < row.Cells.Count && Plain(row.Cells[at].Trim()) is { Length: > 0 } cell) return cell;
        return null;
    }

    /// <summary>Without the apostrophe that keeps a spreadsheet from taking
    /// the cell for a formula, as <see cref="Csv.Write"/> sets it.</summary>
    private static string Plain(string cell) => cell is ['\'', '=' or '+' or '-' or '@', ..] ? cell[1..] : cell;
}

/// <param name="Number">Of the row's line in the file, from 1.</param>
internal sealed record CsvRow(int Number, IReadOnlyList<string> Cells);

/// <summary>CSV by RFC 4180, and what spreadsheets make of it: other separators, other encodings.</summary>
internal static class Csv
{
    public static (CsvTable? Table, string? Flaw) Read(byte[] bytes, int mostRows)
    {
        if (bytes.Length == 0) return (null, "fileEmpty");
        var text = TextOf(bytes);
        if (text.Contains('\0', StringComparison.Ordinal)) return (null, "csvNotText");
        var options = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            DetectDelimiter = true,
            DetectDelimiterValues = [",", ";", "\t", "|"],
            BadDataFound = null,
            MissingFieldFound = null,
            TrimOptions = TrimOptions.Trim
        };
        using var reader = new CsvParser(new StringReader(text), options);
        if (!reader.Read() || reader.Record is not { } head) return (null, "fileEmpty");
        var rows = new List<CsvRow>();
        while (reader.Read())
        {
            if (reader.Record is not { } cells || cells.All(string.IsNullOrWhiteSpace)) continue;
            if (rows.Count >= mostRows) return (null, "tooManyLines");
            rows.Add(new CsvRow(reader.RawRow, cells));
        }
        if (HasUnclosedQuote(text, reader.Delimiter[0])) return (null, "csvQuote");
        return rows.Count == 0
            ? (null, "nothingToRead")
            : (new CsvTable([.. head.Select(column => column.Trim().ToLowerInvariant())], rows), null);
    }

    /// <summary>A cell that begins with a quotation mark and is not closed
    /// at its end takes in what follows: two people become one.</summary>
    private static bool HasUnclosedQuote(string text, char delimiter)
    {
        bool IsEnd(int at) => at >= text.Length || text[at] == delimiter || text[at] is '\r' or '\n';
        for (var at = 0; at < text.Length; at++)
        {
            if (text[at] != '"' || !(at == 0 || text[at - 1] == delimiter || text[at - 1] is '\n' or '\r' or '\uFEFF')) continue;
            for (at++; at < text.Length && (text[at] != '"' || (at + 1 < text.Length && text[at + 1] == '"')); at++)
                if (text[at] == '"') at++;
            while (at + 1 < text.Length && text[at + 1] == ' ') at++;
            if (at >= text.Length || !IsEnd(at + 1)) return true;
        }
        return false;
    }

    public static byte[] Write(string[] columns, IEnumerable<string?[]> rows)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var writer = new CsvWriter(text,
            new CsvConfiguration(CultureInfo.InvariantCulture) { NewLine = "\r\n", InjectionOptions = InjectionOptions.Escape }))
        {
            foreach (var row in rows.Prepend(columns))
            {
                foreach (var cell in row) writer.WriteField(cell);
                writer.NextRecord();
            }
        }
        return Encoding.UTF8.GetPreamble().Concat(Encoding.UTF8.GetBytes(text.ToString())).ToArray();
    }

    /// <summary>UTF-8 or UTF-16 by its mark; without one UTF-8 if it is that, and otherwise the Western one-byte encoding.</summary>
    public static string TextOf(byte[] bytes)
    {
        if (bytes is [0xFF, 0xFE, ..]) return Encoding.Unicode.GetString(bytes, 2, bytes.Length - 2);
        if (bytes is [0xFE, 0xFF, ..]) return Encoding.BigEndianUnicode.GetString(bytes, 2, bytes.Length - 2);
        var from = bytes is [0xEF, 0xBB, 0xBF, ..] ? 3 : 0;
        try { return new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(bytes, from, bytes.Length - from); }
        catch (DecoderFallbackException) { return Encoding.Latin1.GetString(bytes); }
    }
}
