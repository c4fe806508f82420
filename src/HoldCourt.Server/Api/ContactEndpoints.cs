using HoldCourt.Server.Planning;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Api;

internal static class ContactEndpoints
{
    public static void MapContacts(this IEndpointRouteBuilder api)
    {
        var contacts = api.MapGroup("/contacts").RequireAuthorization();
        contacts.MapGet("/", async (Desk desk) => (await Mine(desk)).Select(ContactTable.RowOf).ToList());
        contacts.MapPost("/", async (ContactRow row, Desk desk) =>
        {
            if (Refuses(row) is { } reason) return Problems.Of(reason, 400);
            await using var db = await desk.Db();
            var contact = row.Id == 0
                ? null
                : await db.Contacts.SingleOrDefaultAsync(contact => contact.Id == row.Id && contact.OwnerId == desk.Owner);
            if (row.Id != 0 && contact is null) return Problems.Of("noSuchContact", 404);
            if (contact is null) db.Add(contact = new Contact { OwnerId = desk.Owner, Name = row.Name });
            ContactTable.Into(contact, row);
            await db.SaveChangesAsync();
            return Results.Ok(ContactTable.RowOf(contact));
        });
        contacts.MapPost("/remove", async (IReadOnlyList<long> ids, Desk desk) =>
        {
            await using var db = await desk.Db();
            await db.Contacts.Where(contact => contact.OwnerId == desk.Owner && ids.Contains(contact.Id)).ExecuteDeleteAsync();
            return Results.NoContent();
        });
        // Looking first and importing after read the same file, so that what was shown is what is done.
        contacts.MapPost("/import/look", async (Desk desk, HttpRequest request, HeavyWork heavy) =>
        {
            var (bytes, mine) = (await Uploads.Read(request), await Mine(desk));
            return await heavy.Run(Lane.Slow, desk.Owner, () => ContactTable.Import(bytes, mine));
        }).WithMetadata(Uploads.Limit);
        contacts.MapPost("/import", async (Desk desk, HttpRequest request, HeavyWork heavy) =>
        {
            var bytes = await Uploads.Read(request);
            // Two at once stand in turn, each with what the one before has left. No lock of the database is held while others have theirs.
            var import = await heavy.Run(Lane.Slow, desk.Owner, async () =>
            {
                await using var db = await desk.Db();
                var mine = await db.Contacts.Where(contact => contact.OwnerId == desk.Owner).ToListAsync();
                var read = ContactTable.Import(bytes, mine);
                if (read.Flaw is null) Take(db, desk.Owner, read, mine);
                await db.SaveChangesAsync();
                return read;
            });
            if (import.Flaw is { } reason) return Problems.Of(reason, 400);
            return Results.Ok(import with { Rows = [.. import.Rows.Where(row => row.Deed == ImportDeed.Skip)] });
        }).WithMetadata(Uploads.Limit);
        contacts.MapGet("/contacts.csv", async (Desk desk) =>
            Results.File(ContactTable.WriteCsv((await Mine(desk)).Select(ContactTable.RowOf)), "text/csv", "contacts.csv"));
        contacts.MapGet("/contacts.vcf", async (Desk desk) => Results.File(
            System.Text.Encoding.UTF8.GetBytes(
                VCards.Write((await Mine(desk))
                .Select(contact => new ReadContact(0, contact.Name, contact.Email, contact.Phone, ContactTable.GroupsOf(contact), null)))),
            "text/vcard", "contacts.vcf"));
    }

    private static void Take(CourtDb db, string owner, ContactImport import, List<Contact> mine)
    {
        var byId = mine.ToDictionary(contact => contact.Id);
        foreach (var row in import.Rows)
        {
            if (row.Deed == ImportDeed.Change) ContactTable.Into(byId[row.Contact.Id], row.Contact);
            if (row.Deed != ImportDeed.Add) continue;
            var contact = new Contact { OwnerId = owner, Name = row.Contact.Name };
            ContactTable.Into(contact, row.Contact);
            db.Add(contact);
        }
    }

    private static string? Refuses(ContactRow row) =>
        row.Groups is null ? "notUnderstood" : ContactTable.Refuses(row.Name, row.Email, row.Phone, row.Groups);

    private static async Task<List<Contact>> Mine(Desk desk)
    {
        await using var db = await desk.Db();
        return await db.Contacts.AsNoTracking().Where(contact => contact.OwnerId == desk.Owner).OrderBy(contact => contact.Name)
            .ToListAsync();
    }
}
