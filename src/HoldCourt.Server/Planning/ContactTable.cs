using System.Text.Json;
using HoldCourt.Store.Planning;

namespace HoldCourt.Server.Planning;

/// <summary>What importing a contact will do.</summary>
public enum ImportDeed { Add, Change, Same, Skip }

/// <summary>A contact as the page sends and shows it.</summary>
public sealed record ContactRow(long Id, string Name, string? Email, string? Phone, IReadOnlyList<string> Groups);

/// <summary>A row of an import, and what would become of it.</summary>
/// <param name="Flaw">Why it is skipped, as the name of a sentence; null otherwise.</param>
public sealed record ImportRow(int Number, ContactRow Contact, ImportDeed Deed, string? Flaw);

/// <param name="Flaw">Why nothing of the file can be used; null when something can.</param>
public sealed record ContactImport(IReadOnlyList<ImportRow> Rows, int Added, int Changed, int Same, int Skipped, string? Flaw);

/// <summary>Contacts as files: vCard and CSV, both ways.</summary>
internal static class ContactTable
{
    public const int MostContacts = 20_000;

    /// <summary>Why this cannot be a contact, as the name of a sentence; null when it can.</summary>
    public static string? Refuses(string? name, string? email, string? phone, IReadOnlyList<string> groups)
    {
        if (PersonName.Refuses(name) is { } bad) return bad.Reason.Name;
        if (email is { Length: > 0 } && !Mail.IsAddress(email)) return "emailNotUnderstood";
        return phone?.Length > 40 ? "phoneTooLong" : groups.Count > 20 || groups.Any(group => group.Length is 0 or > 80)
            ? "groupTooLong"
            : null;
    }

    /// <summary>Reads a file and compares it with what is there: the same
    /// e-mail, or without one the same name, is the same contact.</summary>
    public static ContactImport Import(byte[] bytes, IReadOnlyList<Contact> present)
    {
        if (bytes.Length == 0) return Nothing("fileEmpty");
        IReadOnlyList<ReadContact> read;
        if (VCards.Are(bytes, out var text)) read = VCards.Read(text);
        else
        {
            var (table, flaw) = Csv.Read(bytes, MostContacts);
            if (table is null) return Nothing(flaw!);
            if (!table.Has("name") && !table.Has("family name") && !table.Has("given name")) return Nothing("csvNoName");
            read = [.. table.Rows.Select(row => OfRow(table, row))];
        }
        if (read.Count == 0) return Nothing("nothingToRead");
        if (read.Count > MostContacts) return Nothing("tooManyLines");
        var byKey = new Dictionary<string, Contact?>(StringComparer.OrdinalIgnoreCase);
        foreach (var contact in present) byKey.TryAdd(KeyOf(contact.Name, contact.Email), contact);
        var rows = read.Select(contact => Compare(contact, byKey)).ToList();
        int Count(ImportDeed deed) => rows.Count(row => row.Deed == deed);
        return new ContactImport(rows, Count(ImportDeed.Add), Count(ImportDeed.Change), Count(ImportDeed.Same),
            Count(ImportDeed.Skip), null);
    }

    private static ImportRow Compare(ReadContact read, Dictionary<string, Contact?> byKey)
    {
        var row = new ContactRow(0, PersonName.Tidy(read.Name), string.IsNullOrWhiteSpace(read.Email)
            ? null
            : read.Email.Trim(), read.Phone, read.Groups);
        if (read.Flaw is { } flaw) return new ImportRow(read.Number, row with { Name = read.Name }, ImportDeed.Skip, flaw);
        var key = KeyOf(row.Name, row.Email);
        if (!byKey.TryGetValue(key, out var there))
        {
            byKey[key] = null;
            return new ImportRow(read.Number, row, ImportDeed.Add, null);
        }
        if (there is null) return new ImportRow(read.Number, row, ImportDeed.Skip, "twiceInFile");
        byKey[key] = null;
        var groups = GroupsOf(there);
        row = row with { Id = there.Id, Phone = row.Phone ?? there.Phone, Groups = [.. groups.Union(row.Groups)] };
        var same = there.Name == row.Name && there.Email == row.Email && there.Phone == row.Phone && groups.Count == row.Groups.Count;
        return new ImportRow(read.Number, row, same ? ImportDeed.Same : ImportDeed.Change, null);
    }

    private static ReadContact OfRow(CsvTable table, CsvRow row)
    {
        var name = table.Of(row, "name", "full name")
            ?? string.Join(' ', new[] { table.Of(row, "given name", "first name"), table.Of(row, "family name", "last name") }
            .OfType<string>());
        var email = table.Of(row, "email", "e-mail", "mail");
        var phone = table.Of(row, "phone", "telephone");
        var groups = (table.Of(row, "groups", "group") ?? "")
            .Split([';', '|'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        return new ReadContact(row.Number, name, email, phone, groups, Refuses(name, email, phone, groups));
    }

    private static string KeyOf(string name, string? email) => email is { Length: > 0 } ? "mail:" + email : "name:" + name;

    public static IReadOnlyList<string> GroupsOf(Contact contact) => JsonSerializer.Deserialize<string[]>(contact.Groups) ?? [];

    public static ContactRow RowOf(Contact contact) => new(contact.Id, contact.Name, contact.Email, contact.Phone, GroupsOf(contact));

    public static void Into(Contact contact, ContactRow row)
    {
        contact.Name = PersonName.Tidy(row.Name);
        contact.Email = string.IsNullOrWhiteSpace(row.Email) ? null : row.Email.Trim();
        contact.Phone = string.IsNullOrWhiteSpace(row.Phone) ? null : row.Phone.Trim();
        contact.Groups = JsonSerializer.Serialize(row.Groups.Select(group => group.Trim()).Distinct());
    }

    public static byte[] WriteCsv(IEnumerable<ContactRow> contacts) =>
        Csv.Write(["name", "email", "phone", "groups"],
            contacts.Select(contact => new[] { contact.Name, contact.Email, contact.Phone, string.Join(';', contact.Groups) }));

    private static ContactImport Nothing(string flaw) => new([], 0, 0, 0, 0, flaw);
}
