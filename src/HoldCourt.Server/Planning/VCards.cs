using System.Text;

namespace HoldCourt.Server.Planning;

/// <summary>What we keep of a contact.</summary>
/// <param name="Flaw">The name of a sentence that says why it cannot be used; null when it can.</param>
public sealed record ReadContact(int Number, string Name, string? Email, string? Phone, IReadOnlyList<string> Groups, string? Flaw);

/// <summary>
/// Reads vCard 2.1, 3.0 (RFC 2426) and 4.0 (RFC 6350), and writes 4.0. No package for it is to be had here, and we need
/// five properties of it: name, e-mail, telephone, categories, and their encodings.
/// </summary>
internal static class VCards
{
    /// <param name="text">What the file says.</param>
    public static bool Are(byte[] file, out string text) =>
        (text = Csv.TextOf(file)).Contains("BEGIN:VCARD", StringComparison.OrdinalIgnoreCase);

    public static IReadOnlyList<ReadContact> Read(string text)
    {
        var contacts = new List<ReadContact>();
        Dictionary<string, List<string>>? card = null;
        var start = 0;
        foreach (var (line, number) in Unfold(text))
        {
            if (line.Equals("BEGIN:VCARD", StringComparison.OrdinalIgnoreCase))
                (card, start) = (new Dictionary<string, List<string>>(StringComparer.OrdinalIgnoreCase), number);
            else if (card is null) continue;
            else if (line.Equals("END:VCARD", StringComparison.OrdinalIgnoreCase))
            {
                contacts.Add(ContactOf(card, start));
                card = null;
            }
            else if (Property(line) is var (name, value))
            {
                if (!card.TryGetValue(name, out var values)) card[name] = values = [];
                values.Add(value);
            }
        }
        // A file cut off in the middle of a card: the card is named rather than lost in silence.
        if (card is not null) contacts.Add(ContactOf(card, start) with { Flaw = "vcardCutOff" });
        return contacts;
    }

    public static string Write(IEnumerable<ReadContact> contacts)
    {
        var text = new StringBuilder();
        foreach (var contact in contacts)
        {
            text.Append("BEGIN:VCARD\r\nVERSION:4.0\r\n");
            Line($"FN:{Escape(contact.Name)}");
            if (contact.Email is { } email) Line($"EMAIL:{Escape(email)}");
            if (contact.Phone is { } phone) Line($"TEL:{Escape(phone)}");
            if (contact.Groups.Count > 0) Line($"CATEGORIES:{string.Join(',', contact.Groups.Select(Escape))}");
            text.Append("END:VCARD\r\n");
        }
        return text.ToString();

        // RFC 6350, 3.2: lines of at most 75 octets, folded between characters.
        void Line(string line)
        {
            var octets = 0;
            foreach (var rune in line.EnumerateRunes())
            {
                if (octets + rune.Utf8SequenceLength > 75)
                {
                    text.Append("\r\n ");
                    octets = 1;
                }
                text.Append(rune);
                octets += rune.Utf8SequenceLength;
            }
            text.Append("\r\n");
        }
    }

    private static ReadContact ContactOf(Dictionary<string, List<string>> card, int number)
    {
        string? First(string name) =>
            card.GetValueOrDefault(name)?.Select(value => Unescape(value).Trim()).FirstOrDefault(value => value.Length > 0);
        var name = First("FN") ?? (card.GetValueOrDefault("N")?.FirstOrDefault() is { } parts ? NameOf(parts) : null) ?? First("ORG") ?? "";
        var email = First("EMAIL");
        if (email?.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase) == true) email = email[7..];
        var phone = First("TEL");
        if (phone?.StartsWith("tel:", StringComparison.OrdinalIgnoreCase) == true) phone = phone[4..];
        var groups = card.GetValueOrDefault("CATEGORIES")?.SelectMany(value => Split(value, ',')).Select(value => Unescape(value).Trim())
            .Where(value => value.Length > 0).Distinct().ToList() ?? [];
        return new ReadContact(number, name, email, phone, groups, ContactTable.Refuses(name, email, phone, groups));
    }

    /// <summary>N is family; given; further; before; after.</summary>
    private static string NameOf(string value)
    {
        var parts = Split(value, ';').Select(part => Unescape(part).Trim()).Concat(Enumerable.Repeat("", 5)).Take(5).ToArray();
        return string.Join(' ', new[] { parts[3], parts[1], parts[2], parts[0], parts[4] }.Where(part => part.Length > 0));
    }

    /// <summary>Lines that begin with white space go on from the one before, and so do quoted-printable ones that end in "=".</summary>
    private static IEnumerable<(string Line, int Number)> Unfold(string text)
    {
        var (line, from, number) = (new StringBuilder(), 1, 0);
        foreach (var raw in text.Split('\n').Select(raw => raw.TrimEnd('\r')))
        {
            number++;
            var soft = line.Length > 0 && line[^1] == '=' && line.ToString()
                .Contains("QUOTED-PRINTABLE", StringComparison.OrdinalIgnoreCase);
            if (soft) line.Length--;
            if (raw.Length > 0 && raw[0] is ' ' or '\t' && !soft) line.Append(raw, 1, raw.Length - 1);
            else if (soft) line.Append(raw);
            else
            {
                if (line.Length > 0) yield return (line.ToString(), from);
                line.Clear().Append(raw);
                from = number;
            }
        }
        if (line.Length > 0) yield return (line.ToString(), from);
    }

    private static (string Name, string Value)? Property(string line)
    {
        var (at, quoted) = (0, false);
        for (; at < line.Length && (quoted || line[at] != ':'); at++) quoted ^= line[at] == '"';
        if (at >= line.Length) return null;
        var parts = line[..at].Split(';');
        var name = parts[0][(parts[0].LastIndexOf('.') + 1)..];
        var value = line[(at + 1)..];
        if (parts.Skip(1).Any(part => part.Contains("QUOTED-PRINTABLE", StringComparison.OrdinalIgnoreCase)))
            value = Decode(value, parts.Any(part => part.Contains("ISO-8859", StringComparison.OrdinalIgnoreCase)
                || part.Contains("1252", StringComparison.Ordinal)) ? Encoding.Latin1 : Encoding.UTF8);
        return (name, value);
    }

    private static string Decode(string value, Encoding encoding)
    {
        var bytes = new List<byte>(value.Length);
        for (var i = 0; i < value.Length; i++)
        {
            if (value[i] == '=' && i + 2 < value.Length
                && byte.TryParse(value.AsSpan(i + 1, 2), System.Globalization.NumberStyles.HexNumber, null, out var octet))
            {
                bytes.Add(octet);
                i += 2;
            }
            else bytes.AddRange(encoding.GetBytes(value[i].ToString()));
        }
        return encoding.GetString([.. bytes]);
    }

    private static List<string> Split(string value, char at)
    {
        var (parts, part) = (new List<string>(), new StringBuilder());
        for (var i = 0; i < value.Length; i++)
        {
            if (value[i] == '\\' && i + 1 < value.Length) part.Append(value[i]).Append(value[++i]);
            else if (value[i] == at)
            {
                parts.Add(part.ToString());
                part.Clear();
            }
            else part.Append(value[i]);
        }
        parts.Add(part.ToString());
        return parts;
    }

    private static string Unescape(string value)
    {
        var text = new StringBuilder(value.Length);
        for (var i = 0; i < value.Length; i++)
            text.Append(value[i] == '\\' && i + 1 < value.Length ? value[++i] is 'n' or 'N' ? ' ' : value[i] : value[i]);
        return text.ToString();
    }

    private static string Escape(string value) =>
        value.Replace("\\", "\\\\", StringComparison.Ordinal).Replace(",", "\\,", StringComparison.Ordinal)
            .Replace(";", "\\;", StringComparison.Ordinal).Replace("\n", "\\n", StringComparison.Ordinal);
}
