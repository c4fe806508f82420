using System.Text.Json;

namespace HoldCourt.Server.StandIns.Extras;

/// <summary>Who comes when, and how they behave.</summary>
/// <param name="Pause">Between two sentences of anybody, in milliseconds.</param>
internal sealed record Script(IReadOnlyList<Player> People, int Pause = 1_500)
{
    public static Script Read(string name)
    {
        var file = Path.Combine(AppContext.BaseDirectory, "StandIns", "Extras", "scripts", Path.GetFileName(name) + ".json");
        return JsonSerializer.Deserialize<Script>(File.ReadAllText(file), CoreJson.Options)
            ?? throw new InvalidDataException($"{file} is empty.");
    }

    /// <summary>More people for rehearsal and load: listeners who come in over the first seconds.</summary>
    public static IEnumerable<Player> Crowd(int count)
    {
        string[] given = ["Amara", "Bela", "Chidi", "Dagny", "Elif", "Farid", "Goro", "Hana", "Idris", "Jolanta", "Kiri", "Leif", "Manu",
            "Noor", "Oskar", "Petra"];
        string[] family = ["Abara", "Brandvold", "Castellan", "Demirel", "Eskola", "Fujimura", "Grzelak", "Hassani", "Iwu", "Janssen",
            "Kowal", "Lindgren", "Mbeki-Roe", "Nakano"];
        return Enumerable.Range(0, Math.Clamp(count, 0, 200)).Select(i => new Player(
            $"{given[i % given.Length]} {family[i % family.Length]}" + (i >= given.Length * family.Length / 2 ? $" {i}" : ""), i * 0.1,
            Inside: true, Camera: i % 5 != 4));
    }
}

/// <summary>One simulated person.</summary>
/// <param name="Arrives">Seconds after the opening.</param>
/// <param name="Hand">Seconds after the opening when the hand goes up; null when it does not.</param>
/// <param name="Phone">Takes player by telephone.</param>
/// <param name="StateAt">Seconds after the opening when the state is shown.</param>
/// <param name="Inside">Is let in by the house; others wait for the bench.</param>
internal sealed record Player(string Name, double Arrives, bool Inside = false, Role Role = Role.Attendee, bool Camera = true,
    bool Microphone = false, double? Hand = null,
    bool Phone = false, State? State = null, double StateAt = 0, IReadOnlyList<Saying>? Says = null,
    IReadOnlyList<Doing>? Does = null);

/// <summary>Something that a simulated person does with exhibits, once; what cannot be done then is left out.</summary>
/// <param name="Item">The item of the run sheet that must be on; null counts from the opening.</param>
/// <param name="At">Seconds after that.</param>
/// <param name="Brings">Name of a paper of the session to put on the shelf.</param>
/// <param name="Shows">Title of an exhibit to show to all.</param>
/// <param name="HandsTo">Name of who gets the paging of what is shown.</param>
/// <param name="Marks">Is drawn over what is shown.</param>
/// <param name="Desk">A made-up desk stands on this person's screen from here on, where the house has one.</param>
/// <param name="OfDesk">Is done only where there is that desk.</param>
/// <param name="LendsToHost">Lends the controls of this person's screen to the host.</param>
internal sealed record Doing(double At, int? Item = null, string? Brings = null, string? Shows = null, string? HandsTo = null,
    SeatCommand? Wish = null, MarkWish? Marks = null, bool Desk = false, bool OfDesk = false, bool LendsToHost = false);

/// <summary>Something that a simulated person writes.</summary>
/// <param name="At">Seconds after the opening.</param>
internal sealed record Saying(double At, string Text, Reach To = Reach.Everyone, bool Question = false);
