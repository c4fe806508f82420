using System.Buffers.Text;
using System.Security.Cryptography;
using HoldCourt.Server.Topics;
using HoldCourt.Store;
using HoldCourt.Store.Files;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Exhibits;

/// <summary>What came of bringing a file: an exhibit, or why not.</summary>
/// <param name="Exhibit">Its number.</param>
internal sealed record Brought(int? Exhibit, string? Reason = null, Refusal? Refusal = null);

/// <summary>Puts files and papers of the session on the shelf, on behalf of somebody inside.</summary>
internal sealed class Bringing(IDbContextFactory<CourtDb> databases, KeptFiles files, IGrainFactory grains)
{
    /// <summary>A file that this very person has sent.</summary>
    public async Task<Brought> File(Guid sitting, PersonKey person, SeatId seat, Guid id) =>
        await files.Find(sitting, id) is { } file && file.Seat == seat.Number && files.IsWhole(file)
            ? await Shelve(sitting, person, file)
            : new Brought(null, "noSuchFile");

    /// <summary>A paper of the session whose sitting it is.</summary>
    public async Task<Brought> Paper(Guid sitting, PersonKey person, SeatId seat, long id) =>
        await Copy(sitting, person, seat, papers => papers.Where(paper => paper.Id == id));

    /// <inheritdoc cref="Paper(Guid, PersonKey, SeatId, long)"/>
    public async Task<Brought> Paper(Guid sitting, PersonKey person, SeatId seat, string name) =>
        await Copy(sitting, person, seat, papers => papers.Where(paper => paper.Name == name));

    /// <summary>A paper that an item of the run sheet shows, or rooms: by its name, with the ending or without.</summary>
    public async Task<Brought> Named(Guid sitting, PersonKey person, SeatId seat, string title, bool shows) =>
        await Copy(sitting, person, seat, papers => papers.Where(paper => paper.Name == title || EF.Functions.Like(
            paper.Name, title.Replace("\\", "\\\\").Replace("%", "\\%").Replace("_", "\\_") + ".%", "\\")), shows);

    private async Task<Brought> Copy(Guid sitting, PersonKey person, SeatId seat, Func<IQueryable<Paper>, IQueryable<Paper>> which,
        bool shows = false)
    {
        await using var db = await databases.CreateDbContextAsync();
        var session = await db.Sittings.Where(one => one.Id == sitting).Select(one => one.SessionId).SingleOrDefaultAsync();
        if (await which(db.Papers.AsNoTracking().Where(paper => paper.SessionId == session)).FirstOrDefaultAsync() is not { } paper)
            return new Brought(null, "noSuchPaper");
        var (file, reason) = await files.Put(sitting, seat, paper.Name, paper.Content);
        if (file is null) return new Brought(null, reason);
        var brought = await Shelve(sitting, person, file, shows);
        // A copy that is on no shelf would lie there for nobody.
        if (brought.Exhibit is null) await files.Drop(file);
        return brought;
    }

    private async Task<Brought> Shelve(Guid sitting, PersonKey person, FileRecord file, bool shows = false)
    {
        if (FileKind.Of(files.PathOf(file.Id), file.Name).Shows is not { } kind) return new Brought(null, "fileCannotBeShown");
        var secret = Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(Pages.SecretSize));
        var grain = grains.In<ISittingExhibits>(sitting);
        if (await grain.Bring(person, kind, System.IO.Path.GetFileNameWithoutExtension(file.Name), file.Id, secret, shows)
            is { Refusal: { } refusal })
            return new Brought(null, Refusal: refusal);
        return await grain.NumberOf(file.Id) is { } number ? new Brought(number) : new Brought(null, "noSuchExhibit");
    }
}
