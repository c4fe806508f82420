using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Topics;
using HoldCourt.Server.Workload;

namespace HoldCourt.Server.Rooms;

/// <summary>What is asked of the rooms of a sitting.</summary>
internal interface ISittingRooms : IGrainExtension
{
    /// <summary>
    /// The plan of rooms, or those that are open, with everybody by name; null where there are none, and for others than the bench.
    /// </summary>
    Task<RoomForm?> ExportPlan(PersonKey person);

    /// <summary>Who was in which room, and what rooms made, for the bench; null for everybody else.</summary>
    Task<RoomsExport?> ExportRounds(PersonKey person);
}

/// <summary>Rooms: working out a plan takes a while, and nobody waits for it but whoever wished it.</summary>
internal sealed class RoomWork : TopicWork, ISittingRooms
{
    private readonly HeavyWork _heavy;

    public RoomWork(HeavyWork heavy, NamedPapers papers)
    {
        _heavy = heavy;
        Before<PlanRooms>(async (by, plan, _) => new Prepared(await WorkOut(by, plan) is { } done ? plan with { Done = done } : plan));
        Before<PlanAnotherRound>(async (by, round, _) => new Prepared(
            PlanAnotherRound.FormIn(Inside.Latest) is { } form && await WorkOut(by, new PlanRooms(form, ByHand: false)) is { } done
                ? round with { Done = done }
                : round));
        After<PlanRooms>((by, _) => BringTasks(by));
        After<PlanAnotherRound>((by, _) => BringTasks(by));
        After<OpenRooms>((by, _) => BringTasks(by));
        // Items may open rooms.
        After<NextItem>((by, _) => BringTasks(by));
        After<TurnToItem>((by, _) => BringTasks(by));
        At(EndRooms.Due, new EnterRooms(), new EndRooms());

        Task BringTasks(Actor by)
        {
            papers.Begin(Inside, by, () => Titles(Inside.Latest), shows: false);
            return Task.CompletedTask;
        }
    }

    public override string Name => "rooms";

    public Task<RoomForm?> ExportPlan(PersonKey person)
    {
        var sitting = Inside.Shown;
        return Task.FromResult(sitting.KnowsBooks(person) ? RoomPlanning.ByName(sitting) : null);
    }

    public Task<RoomsExport?> ExportRounds(PersonKey person)
    {
        var sitting = Inside.Shown;
        return Task.FromResult(sitting.KnowsBooks(person) ? RoomsExport.Of(sitting) : null);
    }

    /// <summary>Documents that go with rooms' tasks: they stand on the hall's shelf, unseen, before the rooms open.</summary>
    private static List<string> Titles(Sitting sitting)
    {
        var form = sitting.Rooms.Draft?.Form ?? (sitting.Rooms.OpensAt is not null ? sitting.Rooms.Form : null);
        return form?.Documents.ToList() ?? [];
    }

    /// <summary>A plan of rooms as it would be for those who are here, worked out beside everything else; null where there is none to work
    /// out.</summary>
    private async Task<WorkedOut?> WorkOut(Actor by, PlanRooms wish)
    {
        if (Inside.Latest.Forbids(by, Capability.RunRooms) is not null || wish.ToWorkOut is not { } wanted) return null;
        var sitting = Inside.Latest;
        return await _heavy.Run(Lane.Slow, Inside.Id.ToString(), () =>
            RoomPlanning.WorkOut(sitting, wanted, wish.ByHandIn(sitting.Rooms.Draft, wanted)));
    }
}
