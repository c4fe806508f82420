using System.Globalization;
using HoldCourt.Server.Security;
using HoldCourt.Store.Planning;

namespace HoldCourt.Server.Planning;

/// <summary>A line of the docket as the page sends and shows it.</summary>
/// <param name="Id">Null for a new line.</param>
/// <param name="Slot">Local time in the session's zone, "2027-04-05T14:30"; null without a slot.</param>
public sealed record DocketRow(long? Id, string Name, string? Email, Role Role, string? Group, string? Slot, int? Minutes, Answer Answer,
    Instant? InvitedAt);

/// <summary>A row of what was pasted or imported, and why it cannot be used where it cannot.</summary>
/// <param name="Flaw">The name of a sentence, or null.</param>
public sealed record ReadLine(int Number, string Text, DocketRow Line, string? Flaw);

/// <summary>What a text or file would bring.</summary>
/// <param name="Flaw">Why nothing of it can be used; null when something can.</param>
public sealed record ReadDocket(IReadOnlyList<ReadLine> Lines, string? Flaw);

/// <summary>Checks the docket's lines, and reads and writes them as text and CSV.</summary>
internal static class DocketTable
{
    public const int MostLines = 5_000;

    public static DocketRow LineOf(DocketRecord record, TimeZoneInfo zone) => new(
        record.Id, record.Name, record.Email, record.Role, record.Group,
        record.SlotAt is { } slot ? PlanTimes.Local(new Instant(slot), zone)
            .ToString("yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture) : null,
        record.Minutes, record.Answer, record.InvitedAt is { } at ? new Instant(at) : null);

    /// <summary>Why the line cannot be kept, as the name of a sentence; null when it can.</summary>
    public static string? Refuses(DocketRow line, TimeZoneInfo zone)
    {
        if (PersonName.Refuses(line.Name) is { } bad) return bad.Reason.Name;
        if (line.Email is { Length: > 0 } email && !Mail.IsAddress(email)) return "emailNotUnderstood";
        if (line.Role == Role.Host || !Enum.IsDefined(line.Role)) return "roleNotGiven";
        if (line.Minutes is < 1 or > Plans.LongestMinutes) return "lengthOutOfRange";
        if (line.Group?.Length > 80) return "groupTooLong";
        return line.Slot is null ? null : PlanTimes.Resolve(line.Slot, zone).Flaw;
    }

    public static void Into(DocketRecord record, DocketRow line, int position, TimeZoneInfo zone)
    {
        record.Position = position;
        record.Name = PersonName.Tidy(line.Name);
        record.Email = string.IsNullOrWhiteSpace(line.Email) ? null : line.Email.Trim();
        record.Role = line.Role;
        record.Group = Bounds.Clean(line.Group, lines: false) is { Length: > 0 } group ? group : null;
        record.SlotAt = line.Slot is null ? null : PlanTimes.Resolve(line.Slot, zone).At?.Milliseconds;
        record.Minutes = line.Minutes;
    }

    public static DocketRecord New(Guid session, DocketRow line, int position, TimeZoneInfo zone)
    {
        var record = new DocketRecord { SessionId = session, Name = line.Name, Token = SeatCookies.Random128() };
        Into(record, line, position, zone);
        return record;
    }

    public static DocketLine ForSitting(DocketRecord record) => new(
        record.Name, record.Role, record.Email, record.Group, record.SlotAt is { } slot
            ? new Instant(slot)
            : null, record.Minutes, KeyOf(record));

    /// <summary>What a personal link proves.</summary>
    public static string KeyOf(DocketRecord record) => "line:" + record.Id.ToString(CultureInfo.InvariantCulture);

    /// <summary>Two visits at the same time: the later of each pair.</summary>
    public static IEnumerable<(DocketRow Earlier, DocketRow Later)> Overlaps(IEnumerable<DocketRow> lines, TimeZoneInfo zone)
    {
        var slots = lines.Where(line => line.Slot is not null).Select(line => (line, at: PlanTimes.Resolve(line.Slot, zone).At))
            .Where(pair => pair.at is not null)
            .OrderBy(pair => pair.at!.Value).ToList();
        return slots.Zip(slots.Skip(1))
            .Where(pair => pair.First.at!.Value + TimeSpan.FromMinutes(pair.First.line.Minutes ?? 15) > pair.Second.at!.Value)
            .Select(pair => (pair.First.line, pair.Second.line));
    }

    /// <param name="day">The session's local date, to which times of day belong.</param>
    public static ReadDocket ReadText(string text, DateOnly day, TimeZoneInfo zone)
    {
        if (text.Length > DocketText.Longest) return new ReadDocket([], "tooLarge");
        var lines = DocketText.Read(text);
        if (lines is []) return new ReadDocket([], "nothingToRead");
        if (lines.Length > MostLines) return new ReadDocket([], "tooManyLines");
        return new ReadDocket([.. lines.Select(line =>
        {
            var slot = line.At is { } at ? day.ToDateTime(new TimeOnly(at / 60, at % 60))
                .ToString("yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture) : null;
            var row = new DocketRow(null, line.Name, line.Email, line.Role, line.Group, slot, line.Minutes, Answer.None, null);
            return new ReadLine(line.Number, line.Text, row, line.Flaw is { } bad ? bad.Name : Refuses(row, zone));
        })], null);
    }

    /// <summary>A table as CSV, or people as vCards.</summary>
    public static ReadDocket ReadFile(byte[] bytes, DateOnly day, TimeZoneInfo zone)
    {
        if (!VCards.Are(bytes, out var text)) return ReadCsv(bytes, day, zone);
        var people = VCards.Read(text);
        if (people.Count > MostLines) return new ReadDocket([], "tooManyLines");
        return new ReadDocket([.. people.Select(person =>
        {
            var row = new DocketRow(null, person.Name, person.Email, Role.Attendee, person.Groups is [var first, ..]
                ? first
                : null, null, null, Answer.None, null);
            return new ReadLine(person.Number, person.Name, row, person.Flaw ?? Refuses(row, zone));
        })], null);
    }

    private static ReadDocket ReadCsv(byte[] bytes, DateOnly day, TimeZoneInfo zone)
    {
        var (table, flaw) = Csv.Read(bytes, MostLines);
        if (table is null) return new ReadDocket([], flaw);
        if (!table.Has("name")) return new ReadDocket([], "csvNoName");
        return new ReadDocket([.. table.Rows.Select(cells =>
        {
            var slot = SlotOf(table.Of(cells, "slot", "time", "start"), table.Of(cells, "date"), day);
            var minutes = table.Of(cells, "minutes", "length");
            var role = table.Of(cells, "role");
            var row = new DocketRow(null, table.Of(cells, "name") ?? "", table.Of(cells, "email", "e-mail", "mail"),
                role is null ? Role.Attendee : Enum.TryParse<Role>(role, true, out var given) && !int.TryParse(role, out _) ? given
                : Role.Host,
                table.Of(cells, "group"), slot.Local, int.TryParse(minutes, CultureInfo.InvariantCulture, out var length)
                    ? length
                    : minutes is null ? null : 0, Answer.None, null);
            return new ReadLine(cells.Number, string.Join(", ", cells.Cells), row, slot.Flaw ?? Refuses(row, zone));
        })], null);
    }

    private static (string? Local, string? Flaw) SlotOf(string? text, string? date, DateOnly day)
    {
        if (text is null) return (null, null);
        if (date is not null && !DateOnly.TryParseExact(date, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out day))
            return (null, "timeNotUnderstood");
        if (TimeOnly.TryParse(text, CultureInfo.InvariantCulture, out var time) && !text.Contains('-', StringComparison.Ordinal))
            return (day.ToDateTime(time).ToString("yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture), null);
        return DateTime.TryParseExact(text, ["yyyy-MM-dd'T'HH:mm", "yyyy-MM-dd HH:mm", "yyyy-MM-dd'T'HH:mm:ss"],
            CultureInfo.InvariantCulture, DateTimeStyles.None, out var whole)
            ? (whole.ToString("yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture), null)
            : (null, "timeNotUnderstood");
    }

    /// <summary>By RFC 4180, with the columns that <see cref="ReadCsv"/> takes.</summary>
    public static byte[] WriteCsv(IEnumerable<DocketRow> lines) =>
        Csv.Write(["name", "email", "role", "group", "slot", "minutes", "answer"],
        lines.Select(line => new[] { line.Name, line.Email, line.Role.ToString().ToLowerInvariant(), line.Group, line.Slot,
            line.Minutes?.ToString(CultureInfo.InvariantCulture), line.Answer == Answer.None ? "" : line.Answer.ToString() }));
}
