using System.Text.Json;
using HoldCourt.Core.Admission;
using HoldCourt.Core.Docket;
using HoldCourt.Core.Orders;
using HoldCourt.Core.Sittings;
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
    public const string Email = "odalys@larkmoor.example.org", Password = "six-streams";

    /// <summary>Makes what is not there yet.</summary>
    /// <returns>The link to the assembly.</returns>
    public async Task<string> Load()
    {
        var host = await users.FindByEmailAsync(Email);
        if (host is null)
        {
            host = new Account { UserName = Email, Email = Email, EmailConfirmed = true, Name = "Odalys Brandt" };
            var result = await users.CreateAsync(host, Password);
            if (!result.Succeeded) throw new InvalidOperationException(string.Join(" ", result.Errors.Select(error => error.Description)));
        }
        await using var db = await databases.CreateDbContextAsync();
        if (await db.Sessions.Where(s => s.OwnerId == host.Id && s.Extras == "assembly").Select(s => s.Link).FirstOrDefaultAsync() is { } link) return link;
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        var assembly = Standing("Spring Wardens’ Assembly", "Reports from the six streams, questions from the floor, and the year’s priorities.", 60, _wardens, "assembly", now);
        var casework = Standing("Riverbank Casework", "Landholders come one at a time, in slots of fifteen minutes.", 120, _landholders, "casework", now + 1);
        db.AddRange(assembly, casework);
        await db.SaveChangesAsync();
        return assembly.Link;

        Session Standing(string title, string description, int minutes, DocketLine[] docket, string extras, long created) => new()
        {
            OwnerId = host.Id,
            Title = title,
            Description = description,
            Kind = SessionKind.Standing,
            Minutes = minutes,
            Door = DoorMode.Attended,
            Link = SeatCookies.Random128(),
            Orders = JsonSerializer.Serialize(OrderSheet.Usual, CoreJson.Options),
            Docket = JsonSerializer.Serialize(docket, CoreJson.Options),
            Extras = extras,
            CreatedAt = created
        };
    }

    private static readonly DocketLine[] _wardens =
    [
        new("Ilse Vantorre", Role.Deputy), new("Teodor Quill", Role.Presenter), new("Mirembe Achan"), new("Ansel Roope"), new("Kwabena Osei"),
        new("Runa Halvari"), new("Pilar Mestre"), new("Jun Takeda"), new("Esther Lindqvist"), new("Tamsin Okonjo"), new("Rafael Brandão"),
        new("Soraya Kazemi"), new("Nia Okafor"), new("Marise Delacroix"), new("Ewa Brzezińska", Role.Presenter)
    ];

    private static readonly DocketLine[] _landholders =
    [
        new("Gwen Ashdown"), new("Bartosz Wilk"), new("Lieselotte Hamm"), new("Oyelaran Adewale")
    ];
}
