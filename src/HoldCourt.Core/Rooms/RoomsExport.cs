using System.Collections.Immutable;

namespace HoldCourt.Core.Rooms;

/// <summary>A room that was closed: who was in it, and what it made.</summary>
/// <param name="Round">1 for the first time that rooms were open.</param>
/// <param name="Name">Its name or place.</param>
/// <param name="People">Those who belonged there when it was closed, its leads among them.</param>
/// <param name="Exhibits">What lies on the hall's shelf from it.</param>
/// <param name="Files">What was handed out to all in it.</param>
public sealed record ExportedRoom(
    int Round, string Name, string? Task, ImmutableArray<string> Leads, ImmutableArray<string> People, ImmutableArray<string> Exhibits,
    ImmutableArray<string> Files);

/// <summary>The rooms of a sitting, for the bench to take home. What was said and written in them is not in it.</summary>
public sealed record RoomsExport(string Title, ImmutableArray<ExportedRoom> Rooms)
{
    /// <summary>A room in which nobody was, since it was called off or stayed empty, is in none.</summary>
    public static RoomsExport Of(Sitting sitting) => new(
        sitting.Title, [.. sitting.Rooms.Past.Select(room => Of(sitting.At(null), room)).Where(room => room.People is not [])]);

    private static ExportedRoom Of(Sitting sitting, PastRoom room)
    {
        var book = sitting.Rooms;
        var belonged = room.Round <= book.Rounds.Length ? book.Rounds[room.Round - 1] : book.Assigned;
        return new ExportedRoom(
            room.Round, RoomNames.Of(room.Name, room.Ordinal), room.Task, [.. room.Leads.Select(lead => sitting.Seats[lead].Name)],
            [.. belonged.Where(pair => pair.Value == room.Number).Select(pair => sitting.Seats[new SeatId(pair.Key)].Name)],
            [.. sitting.Shelf.Open.Where(exhibit => exhibit.Room == room.Number)
                .Select(exhibit => Shelves.NameOf(exhibit.Number, exhibit.Title))],
            [.. sitting.Handouts.Out.Where(handout => handout.Room == room.Number).Select(handout => handout.Name)]);
    }
}
