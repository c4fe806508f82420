using HoldCourt.Server.Workload;

namespace HoldCourt.Server.Sittings;

/// <summary>Rooms: working out a plan takes a while, and nobody waits for it but whoever wished it.</summary>
internal sealed partial class SittingGrain
{
    public async Task<RoomForm?> ExportRooms(PersonKey person)
    {
        var sitting = _shown;
        return await ReadsLedger(person) ? RoomPlanning.ByName(sitting) : null;
    }

    public async Task<RoomsExport?> ExportRounds(PersonKey person)
    {
        var sitting = _shown;
        return await ReadsLedger(person) ? RoomsExport.Of(sitting) : null;
    }

    /// <summary>Documents that go with rooms' tasks stand on the hall's shelf, unseen, before the rooms open.</summary>
    private async Task BringTasks(SeatId by)
    {
        var form = _sitting.Rooms.Draft?.Form ?? (_sitting.Rooms.OpensAt is not null ? _sitting.Rooms.Form : null);
        foreach (var title in form?.Documents.ToList() ?? []) await BringNamed(by, title, shows: false);
    }

    /// <summary>A plan of rooms as it would be for those who are here, worked out beside everything else.</summary>
    private async Task<Command> PlannedOut(Actor by, Command command)
    {
        if (command is not (PlanRooms or PlanAnotherRound) || _sitting.Forbids(by, Capability.RunRooms) is not null) return command;
        var wish = command switch
        {
            PlanRooms plan => plan,
            PlanAnotherRound => PlanAnotherRound.FormIn(_sitting) is { } form ? new PlanRooms(form, ByHand: false) : null,
            _ => null
        };
        if (wish?.ToWorkOut is not { } wanted) return command;
        var sitting = _sitting;
        var done = await heavy.Run(Lane.Slow, Id.ToString(), () =>
            RoomPlanning.WorkOut(sitting, wanted, wish.ByHandIn(sitting.Rooms.Draft, wanted)));
        return command switch
        {
            PlanRooms plan => plan with { Done = done },
            PlanAnotherRound round => round with { Done = done },
            _ => command
        };
    }
}
