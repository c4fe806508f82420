using System.Text.Json;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using HoldCourt.Store.Accounts;
using HoldCourt.Store.Planning;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Demo;

/// <summary>The made-up Larkmoor Rivers Trust: a host, an assembly and a standing casework session.</summary>
internal sealed class DemoData(IDbContextFactory<CourtDb> databases, UserManager<Account> users, TimeProvider time)
{
    public const string Email = "odalys@larkmoor.example.org", Password = "heron-ferry-lantern";

    /// <summary>Makes what is not there yet.</summary>
    /// <returns>The link to the assembly.</returns>
    public async Task<string> Load()
    {
        var host = await users.FindByEmailAsync(Email);
        if (host is null)
        {
            host = new Account
            {
                UserName = Email,
                Email = Email,
                EmailConfirmed = true,
                Name = "Odalys Brandt",
                IsDemo = true,
                CreatedAt = time.GetUtcNow().ToUnixTimeMilliseconds()
            };
            var result = await users.CreateAsync(host, Password);
            if (!result.Succeeded) throw new InvalidOperationException(string.Join(" ", result.Errors.Select(error => error.Description)));
        }
        // What is printed at the start must be true.
        else if (!await users.CheckPasswordAsync(host, Password))
            await users.ResetPasswordAsync(host, await users.GeneratePasswordResetTokenAsync(host), Password);
        await using var db = await databases.CreateDbContextAsync();
        if (!await db.Users.AnyAsync(account => account.IsKeeper))
            await db.Users.Where(account => account.Id == host.Id)
            .ExecuteUpdateAsync(set => set.SetProperty(account => account.IsKeeper, true).SetProperty(account => account.IsDemo, true));
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        if (await db.Sessions.Where(s => s.OwnerId == host.Id && s.Extras == "assembly").Select(s => s.Link)
            .FirstOrDefaultAsync() is { } link)
        {
            // The demo's casework is always today.
            foreach (var (line, fresh) in (await db.Docket.Where(line => line.Session!.OwnerId == host.Id
                && line.Session.Extras == "casework").OrderBy(line => line.Position).ToListAsync()).Zip(Landholders(now)))
                line.SlotAt = fresh.Slot?.Milliseconds;
            await AddSlides(db, host.Id, now);
            await db.SaveChangesAsync();
            return link;
        }
        var assembly = Standing("Spring Wardens’ Assembly",
            "Reports from the six streams, questions from the floor, and the year’s priorities.", 60, _wardens, "assembly", now);
        assembly.RunSheet = JsonSerializer.Serialize(_business, CoreJson.Options);
        assembly.Polls = JsonSerializer.Serialize(_questions, CoreJson.Options);
        assembly.Rooms = JsonSerializer.Serialize(_streams, CoreJson.Options);
        var casework = Standing("Riverbank Casework", "Landholders come one at a time, in slots of fifteen minutes.", 120, Landholders(now),
            "casework", now + 1);
        db.AddRange(assembly, casework);
        db.AddRange(_wardens.Select(line => ContactOf(host.Id, line.Name, "wardens"))
            .Concat(Landholders(now).Select(line => ContactOf(host.Id, line.Name, "landholders"))));
        await db.SaveChangesAsync();
        await AddSlides(db, host.Id, now);
        await db.SaveChangesAsync();
        return assembly.Link;

        Session Standing(string title, string description, int minutes, DocketLine[] docket, string extras, long created)
        {
            var session = new Session
            {
                OwnerId = host.Id,
                Title = title,
                Description = description,
                Kind = SessionKind.Standing,
                Minutes = minutes,
                Door = DoorMode.Attended,
                Link = SeatCookies.Random128(),
                Orders = JsonSerializer.Serialize(StandingOrders.Usual, CoreJson.Options),
                Extras = extras,
                CreatedAt = created
            };
            session.Docket.AddRange(docket.Select((line, at) => new DocketRecord
            {
                Position = at,
                Name = line.Name,
                Role = line.Role,
                Email = line.Email,
                Group = line.Group,
                SlotAt = line.Slot?.Milliseconds,
                Minutes = line.Minutes,
                Token = SeatCookies.Random128()
            }));
            return session;
        }
    }

    private static async Task AddSlides(CourtDb db, string owner, long now)
    {
        var assembly = await db.Sessions.Where(session => session.OwnerId == owner && session.Extras == "assembly")
            .Select(session => session.Id).FirstAsync();
        if (await db.Papers.AnyAsync(paper => paper.SessionId == assembly && paper.Name == DemoPapers.Slides)) return;
        var slides = DemoPapers.Make();
        db.Add(new Paper
        {
            SessionId = assembly,
            Name = DemoPapers.Slides,
            ContentType = "application/pdf",
            Content = slides,
            Size = slides.Length,
            AddedAt = now
        });
    }

    private static Contact ContactOf(string owner, string name, string group)
    {
        var plain = new string([.. name.Normalize(System.Text.NormalizationForm.FormD).Where(char.IsAsciiLetterOrDigit)
            .Select(char.ToLowerInvariant)]);
        return new Contact
        {
            OwnerId = owner,
            Name = name,
            Email = $"{plain}@larkmoor.example.org",
            Groups = JsonSerializer.Serialize(new[] { group })
        };
    }

    private static readonly DocketLine[] _wardens =
    [
        new("Ilse Vantorre", Role.Deputy, Group: "Trustees"), new("Teodor Quill", Role.Presenter, Group: "Mill Lane"),
        new("Mirembe Achan", Group: "Mill Lane"), new("Ansel Roope", Group: "Mill Lane"), new("Kwabena Osei", Group: "Upper Moor"),
        new("Runa Halvari", Group: "Upper Moor"), new("Pilar Mestre", Group: "Upper Moor"), new("Jun Takeda", Group: "Estuary"),
        new("Esther Lindqvist", Group: "Estuary"), new("Tamsin Okonjo", Group: "Estuary"), new("Rafael Brandão", Group: "Sallow"),
        new("Soraya Kazemi", Group: "Sallow"), new("Nia Okafor", Group: "Sallow"), new("Marise Delacroix", Group: "Trustees"),
        new("Ewa Brzezińska", Role.Presenter, Group: "Trustees")
    ];

    private const string Priorities = "Which should come first this year?";

    private static readonly PollForm[] _questions =
    [
        PollForm.Of(PollKind.Preference, Priorities, "Mend the weir", "Mark the ford", "Train new wardens", "Open the footpath"),
        PollForm.Of(PollKind.YesOrNo, "Shall the ford be closed in May?") with { Secret = true, Seconds = 120 },
        PollForm.Of(PollKind.Scale, "How well were you told of the floods? 1 badly, 5 well") with { Late = true }
    ];

    private static readonly RoomForm _streams = RoomForm.Of() with
    {
        Rooms =
        [
            new RoomSpec("Mill Lane", null, ["Teodor Quill"], []), new RoomSpec("Upper Moor", null, ["Kwabena Osei"], []),
            new RoomSpec("Estuary", null, ["Jun Takeda"], []), new RoomSpec("Sallow", null, ["Soraya Kazemi"], [])
        ],
        Spread = Spread.ByGroup,
        Task = "What does your stream need before the spring floods? Bring two sentences back.",
        Minutes = 10,
        Late = LateRule.OwnGroup,
        MayListen = true
    };

    private static readonly Item[] _business =
    [
        new(1, "Welcome and apologies", 5, "Odalys Brandt", StandingOrders.Usual, Arrangement.Lead),
        new(2, "Reports from the streams", 20, "Teodor Quill", StandingOrders.Usual with { Speak = Audience.Presenters }, Arrangement.Lead,
            "Gauges first, then the map. Ask Mirembe about the ford.", DemoPapers.Slides),
        new(3, "Questions from the floor", 15, null, StandingOrders.Usual with { Speak = Audience.Presenters }, Arrangement.Even),
        new(4, "The year’s priorities", 15, "Ilse Vantorre", StandingOrders.Usual, Arrangement.Pair,
            Asks: Priorities),
        new(6, "In the streams", 10, OpensRooms: true), new(5, "Any other business", 5)
    ];

    /// <summary>Slots of fifteen minutes from the last quarter of an hour on.</summary>
    private static DocketLine[] Landholders(long now)
    {
        const int Quarter = 15;
        var first = now - (now % (Quarter * 60_000L));
        string[] names = ["Gwen Ashdown", "Bartosz Wilk", "Lieselotte Hamm", "Oyelaran Adewale", "Gwyn Ashdown"];
        return [.. names.Select((name, n) =>
            new DocketLine(name, Group: "landholders", Slot: new Instant(first + (n * Quarter * 60_000L)), Minutes: Quarter))];
    }
}
