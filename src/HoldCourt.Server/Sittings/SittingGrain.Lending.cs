using System.Collections.Immutable;
using HoldCourt.Server.Lending;

namespace HoldCourt.Server.Sittings;

/// <summary>Controls of screens that are lent.</summary>
internal sealed partial class SittingGrain
{
    public async Task<int?> ScreenOf(PersonKey person) =>
        await SeatOf(person) is { } seat ? _shown.AtPlaceOf(_shown.Seats[seat]).Shelf.ScreenOf(seat)?.Number : null;

    /// <summary>What is being taken back already holds, though it is not told yet.</summary>
    public Task Drive(SeatId by, int exhibit, ImmutableArray<DriveInput> inputs, string connection)
    {
        if (_connections.GetValueOrDefault(by) == connection && _shown.MayDrive(by, exhibit) && _sitting.MayDrive(by, exhibit))
            agents.Pass(Id, exhibit, inputs);
        return Task.CompletedTask;
    }

    private void TellAgents(Sitting before, Sitting after)
    {
        foreach (var screen in before.AllExhibits().Where(exhibit => exhibit.HasAgent))
            if (after.FindExhibit(screen.Number) is null || !after.IsRunning) agents.End(Id, screen.Number);
        GrantAgents();
    }

    /// <summary>Who has no line, or another one than before, has let go of what was pressed.</summary>
    private void GrantAgents()
    {
        foreach (var screen in _shown.AllExhibits().Where(exhibit => exhibit.HasAgent))
            if (_shown.DriverOf(screen.Number) is { } driver && _connections.TryGetValue(driver, out var line))
                agents.Grant(Id, screen.Number, _shown.Seats[driver], line);
            else agents.Grant(Id, screen.Number, null, "");
    }

    /// <summary>An agent does not outlive the server.</summary>
    private async Task LookForAgents()
    {
        foreach (var screen in _sitting.AllExhibits().Where(exhibit => exhibit.Kind == ExhibitKind.Screen).ToList())
            await Commit(Actor.House, new NoteAgent(screen.Number, agents.IsThere(Id, screen.Number)));
    }
}
