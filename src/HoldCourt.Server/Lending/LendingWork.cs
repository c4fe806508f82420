using System.Collections.Immutable;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Lending;

/// <summary>What is asked of the screens that are lent in a sitting.</summary>
internal interface ISittingScreens : IGrainExtension
{
    /// <summary>The number of the screen that this very person has open; null without one.</summary>
    Task<int?> ScreenOf(PersonKey person);

    /// <summary>Moves and presses on somebody else's screen, as far as it was lent at this moment. What is not is let go.</summary>
    Task Drive(SeatId by, int exhibit, ImmutableArray<DriveInput> inputs, string connection);
}

/// <summary>Controls of screens that are lent.</summary>
internal sealed class LendingWork(Agents agents) : TopicWork, ISittingScreens
{
    public override string Name => "lending";

    /// <summary>An agent does not outlive the server.</summary>
    public override async Task Woke()
    {
        if (!Inside.Latest.IsRunning) return;
        foreach (var screen in Inside.Latest.AllExhibits().Where(exhibit => exhibit.Kind == ExhibitKind.Screen).ToList())
            await Inside.Wish(Actor.House, new NoteAgent(screen.Number, agents.IsThere(Inside.Id, screen.Number)));
    }

    public override void Stored(Sitting before, Sitting after, ImmutableArray<Entry> news)
    {
        foreach (var screen in before.AllExhibits().Where(exhibit => exhibit.HasAgent))
            if (after.FindExhibit(screen.Number) is null || !after.IsRunning) agents.End(Inside.Id, screen.Number);
        LinesChanged();
    }

    /// <summary>Who has no line, or another one than before, has let go of what was pressed.</summary>
    public override void LinesChanged()
    {
        var sitting = Inside.Shown;
        foreach (var screen in sitting.AllExhibits().Where(exhibit => exhibit.HasAgent))
            if (sitting.DriverOf(screen.Number) is { } driver && Inside.Lines.TryGetValue(driver, out var line))
                agents.Grant(Inside.Id, screen.Number, sitting.Seats[driver], line);
            else agents.Grant(Inside.Id, screen.Number, null, "");
    }

    public Task<int?> ScreenOf(PersonKey person)
    {
        var sitting = Inside.Shown;
        return Task.FromResult(sitting.SeatInside(person) is { } seat ? sitting.AtPlaceOf(seat).Shelf.ScreenOf(seat.Id)?.Number : null);
    }

    /// <summary>What is being taken back already holds, though it is not told yet.</summary>
    public Task Drive(SeatId by, int exhibit, ImmutableArray<DriveInput> inputs, string connection)
    {
        if (Inside.Lines.GetValueOrDefault(by) == connection && Inside.Shown.MayDrive(by, exhibit) && Inside.Latest.MayDrive(by, exhibit))
            agents.Pass(Inside.Id, exhibit, inputs);
        return Task.CompletedTask;
    }
}
