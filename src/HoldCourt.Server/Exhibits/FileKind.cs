using System.IO.Compression;
using System.Text;

namespace HoldCourt.Server.Exhibits;

/// <summary>What a file is, by its first bytes rather than by what its name or the browser says.</summary>
/// <param name="ContentType">As it is handed out.</param>
/// <param name="Shows">As what it can be shown; null when it cannot.</param>
/// <param name="Converts">Only after an office program has made a PDF of it.</param>
internal sealed record FileKind(string ContentType, ExhibitKind? Shows = null, bool Converts = false)
{
    public static FileKind Unknown { get; } = new("application/octet-stream");

    /// <summary>As which it is handed out.</summary>
    public FileSort Sort => Shows switch
    {
        ExhibitKind.Picture => FileSort.Picture,
        null => FileSort.Other,
        _ => FileSort.Document
    };

    private const int Looked = 4_096;

    private static readonly (byte[] Begins, int At, FileKind Kind)[] _beginnings =
    [
        ([0x25, 0x50, 0x44, 0x46, 0x2D], 0, new("application/pdf", ExhibitKind.Document)),
        ([0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A], 0, new("image/png", ExhibitKind.Picture)),
        ([0xFF, 0xD8, 0xFF], 0, new("image/jpeg", ExhibitKind.Picture)),
        ([0x57, 0x45, 0x42, 0x50], 8, new("image/webp", ExhibitKind.Picture)),
        ([0x47, 0x49, 0x46, 0x38], 0, new("image/gif", ExhibitKind.Picture))
    ];

    /// <summary>What stands in an archive that an office program reads.</summary>
    private static readonly Dictionary<string, string> _office = new(StringComparer.OrdinalIgnoreCase)
    {
        [".docx"] = "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
        [".pptx"] = "application/vnd.openxmlformats-officedocument.presentationml.presentation",
        [".xlsx"] = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
        [".odt"] = "application/vnd.oasis.opendocument.text",
        [".odp"] = "application/vnd.oasis.opendocument.presentation",
        [".ods"] = "application/vnd.oasis.opendocument.spreadsheet"
    };

    private static readonly string[] _text = [".txt", ".md", ".csv"];

    /// <exception cref="IOException">The file cannot be read.</exception>
    public static FileKind Of(string path, string name)
    {
        var first = new byte[Looked];
        int count;
        using (var file = File.OpenRead(path)) count = file.ReadAtLeast(first, Looked, throwOnEndOfStream: false);
        var bytes = first.AsSpan(0, count);
        foreach (var (begins, at, kind) in _beginnings)
            if (bytes.Length >= at + begins.Length && bytes[at..].StartsWith(begins)) return kind;
        var ending = Path.GetExtension(name);
        if (bytes.StartsWith("PK\u0003\u0004"u8))
            return _office.TryGetValue(ending, out var type) && IsOffice(path, ending)
                ? new FileKind(type, ExhibitKind.Document, Converts: true)
                : new FileKind("application/zip");
        return _text.Contains(ending, StringComparer.OrdinalIgnoreCase) && IsText(bytes)
            ? new FileKind("text/plain", ExhibitKind.Document, Converts: true)
            : Unknown;
    }

    private static bool IsText(ReadOnlySpan<byte> bytes) => bytes.IndexOf((byte)0) < 0 && bytes.Length > 0
        && Encoding.UTF8.GetString(bytes).Count(letter => letter == '\uFFFD') < 8;

    /// <summary>
    /// An office program makes a PDF even of rubbish, and unfolds whatever it is given; so the archive must name itself what it is, and
    /// stay within what a document may be.
    /// </summary>
    private static bool IsOffice(string path, string ending)
    {
        const long mostUnfolded = 500_000_000;
        const int mostEntries = 20_000;
        try
        {
            using var archive = ZipFile.OpenRead(path);
            if (archive.Entries.Count > mostEntries || archive.Entries.Sum(entry => entry.Length) > mostUnfolded) return false;
            return ending.StartsWith(".od", StringComparison.OrdinalIgnoreCase)
                ? archive.GetEntry("mimetype") is not null && archive.GetEntry("content.xml") is not null
                : archive.GetEntry("[Content_Types].xml") is not null;
        }
        catch (Exception e) when (e is InvalidDataException or IOException or NotSupportedException)
        {
            return false;
        }
    }
}
