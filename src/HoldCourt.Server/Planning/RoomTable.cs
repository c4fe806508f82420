using System.Globalization;

namespace HoldCourt.Server.Planning;

/// <summary>Rooms as a table would have them.</summary>
/// <param name="Twice">Names that stand in more than one room; the first one counts.</param>
public sealed record ReadRooms(IReadOnlyList<RoomSpec> Rooms, IReadOnlyList<string> Twice);

/// <summary>Who goes where as a table (RFC 4180): a line for each person, and one for a room in which nobody is by name.</summary>
internal static class RoomTable
{
    /// <summary>More people than any session has.</summary>
    public const int MostLines = 5_000;

    private static readonly string[] _columns = ["room", "task", "document", "person", "lead"];

    private static readonly string[] _yes = ["yes", "y", "true", "1", "x", "lead", "tak"], _no = ["no", "n", "false", "0", "nie"];

    public static byte[] Write(RoomForm form) => Csv.Write(_columns, form.Rooms.SelectMany((room, at) => Lines(form, room, at)));

    private static IEnumerable<string?[]> Lines(RoomForm form, RoomSpec room, int at)
    {
        var people = room.Leads.Select(name => (Name: name, Lead: "yes"))
            .Concat(room.People.Except(room.Leads).Select(name => (Name: name, Lead: ""))).DefaultIfEmpty((Name: "", Lead: ""));
        return people.Select((one, line) => new[]
        {
            room.Name.Length > 0 ? room.Name : NumberOf(at), line == 0 ? room.Task ?? form.Task : "",
            line == 0 ? room.Shows ?? form.Shows : "", one.Name, one.Lead
        });
    }

    /// <summary>Rooms that were, with a line for each person, exhibit and file.</summary>
    public static byte[] Write(RoomsExport export) => Csv.Write(["round", "room", "task", "what", "name"], export.Rooms.SelectMany(room =>
        room.People.Select(name => (What: room.Leads.Contains(name) ? "lead" : "person", Name: name))
            .Concat(room.Exhibits.Select(name => (What: "exhibit", Name: name)))
            .Concat(room.Files.Select(name => (What: "file", Name: name)))
            .Select(line => new[]
            {
                room.Round.ToString(CultureInfo.InvariantCulture), room.Name, room.Task ?? "", line.What, line.Name
            })));

    /// <returns>
    /// The rooms in the order in which they are first named; or a sentence's name, and the line of the file that it is about.
    /// </returns>
    public static (ReadRooms? Rooms, string? Flaw, int? Line) Read(byte[] bytes)
    {
        var (table, flaw) = Csv.Read(bytes, MostLines);
        if (table is null) return (null, flaw, null);
        if (!table.Has("room")) return (null, "csvNoRoom", null);
        var rooms = new Dictionary<string, Reading>(StringComparer.OrdinalIgnoreCase);
        var order = new List<Reading>();
        foreach (var line in table.Rows)
        {
            if (table.Of(line, "room") is not { } name) return (null, "csvRoomEmpty", line.Number);
            if (!rooms.TryGetValue(name, out var room)) order.Add(rooms[name] = room = new Reading(name));
            if (!Reading.Takes(ref room.Task, table.Of(line, "task"))) return (null, "csvTwoTasks", line.Number);
            if (!Reading.Takes(ref room.Shows, table.Of(line, "document"))) return (null, "csvTwoDocuments", line.Number);
            var lead = table.Of(line, "lead")?.ToLowerInvariant();
            if (lead is not null && !_yes.Contains(lead) && !_no.Contains(lead)) return (null, "csvLead", line.Number);
            if (table.Of(line, "person", "name") is { } person) (_yes.Contains(lead) ? room.Leads : room.People).Add(person);
        }
        var read = order.Select((room, at) => new RoomSpec(
            room.Name == NumberOf(at) ? "" : room.Name, room.Task, [.. room.Leads], [.. room.People], room.Shows)).ToList();
        if (RoomForm.Refuses(RoomForm.Of() with { Rooms = [.. read] }) is { } refusal) return (null, refusal.Reason.Name, null);
        var twice = read.SelectMany(room => room.Leads.Concat(room.People).Distinct(StringComparer.OrdinalIgnoreCase))
            .GroupBy(name => name, StringComparer.OrdinalIgnoreCase).Where(same => same.Count() > 1).Select(same => same.Key);
        return (new ReadRooms(read, [.. twice]), null, null);
    }

    /// <summary>What a room without a name is called by.</summary>
    private static string NumberOf(int at) => (at + 1).ToString(CultureInfo.InvariantCulture);

    private sealed class Reading(string name)
    {
        public string Name { get; } = name;
        public string? Task;
        public string? Shows;
        public List<string> Leads { get; } = [];
        public List<string> People { get; } = [];

        /// <summary>It may stand in every line of a room, but not be another in one of them.</summary>
        public static bool Takes(ref string? kept, string? told)
        {
            if (told is null || kept == told) return true;
            if (kept is not null) return false;
            kept = told;
            return true;
        }
    }
}
