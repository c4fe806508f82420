using HoldCourt.Store;
using HoldCourt.Store.Ledger;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Bench;

/// <summary>A sitting that runs already, put into a server's data while the server is not running.</summary>
internal static class BigSitting
{
    /// <returns>The guest link's last part.</returns>
    public static async Task<string> Fill(string folder, int people = 1_000, int messages = 10_000, int entries = 20_000)
    {
        var services = new ServiceCollection().AddStore(Path.Combine(folder, "hold-court.db")).BuildServiceProvider();
        await using var db = await services.GetRequiredService<IDbContextFactory<CourtDb>>().CreateDbContextAsync();
        var session = await db.Sessions.FirstAsync(s => s.Extras == "casework");
        await db.Sessions.ExecuteUpdateAsync(set => set.SetProperty(s => s.Extras, (string?)null));
        var begun = DateTimeOffset.UtcNow.AddHours(-2).ToUnixTimeMilliseconds();
        var record = new SittingRecord { Id = Guid.NewGuid(), SessionId = session.Id, OpenedAt = begun };
        db.Add(record);
        await db.SaveChangesAsync();

        var (sitting, digest, kept) = (Sitting.Empty, Chain.Start, new List<KeptEntry>());
        void Do(Actor by, Command command) => Keep(by, SittingRules.Decide(sitting, command, by, Now()).Facts.ToArray());
        // A fifth of a second between entries, so that nobody writes faster than a hand can.
        Instant Now() => new(begun + (kept.Count * 200L));
        void Keep(Actor by, params Fact[] facts)
        {
            foreach (var fact in facts)
            {
                (var made, sitting) = SittingRules.Record(sitting, [fact], by, Now());
                kept.Add(Chain.Link(digest, made[0], Marks.Of(made[0], sitting)));
                digest = kept[^1].Digest;
            }
        }
        Do(Actor.House, new Open("A large sitting", new PersonKey("account:" + session.OwnerId), new Door(DoorMode.Open),
            StandingOrders.Usual, []));
        for (var n = 0; n < people; n++) Do(Actor.House, new Announce(new PersonKey($"guest:{n}"), $"Person {n}"));
        for (var n = 0; n < messages; n++)
        {
            var from = new SeatId(1 + (n * 7 % people));
            Keep(Actor.Of(from), new Written(from, new Recipient(Reach.Everyone),
                $"Message {n} about the weir, the ford and the bank at Sallow Bend.", n % 50 == 0));
        }
        for (var n = 0; kept.Count < entries; n++)
            Do(Actor.Of(new SeatId(1 + (n / 2 % people))), n % 2 == 0 ? new OpenMicrophone() : new CloseMicrophone());
        await using var writer = services.GetRequiredService<EntryWriter>();
        foreach (var part in kept.Chunk(2_000)) await writer.Append(record.Id, part);
        return session.Link;
    }
}
