using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Planning;
using HoldCourt.Store;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Handouts;

/// <summary>Puts what was handed out or shown in a sitting among the papers of its session.</summary>
internal sealed class PaperKeeping(IDbContextFactory<CourtDb> databases, KeptFiles files, PageStore pages, TimeProvider time)
{
    /// <returns>The new paper's id, or why there is none.</returns>
    public async Task<(long? Paper, Refusal? Refusal)> Keep(Guid sitting, Handout handout)
    {
        if (handout.Size > SessionPapers.Largest) return (null, new Refusal(Reason.TooLargeForPapers));
        if (await files.Find(sitting, Guid.Parse(handout.File)) is not { } file || !files.IsWhole(file))
            return (null, new Refusal(Reason.FileGone));
        return await Put(sitting, handout.Name, file.ContentType!, await File.ReadAllBytesAsync(files.PathOf(file.Id)));
    }

    /// <summary>As a PDF with its marks; a file on which nobody drew as it is.</summary>
    /// <inheritdoc cref="Keep(Guid, Handout)"/>
    public async Task<(long? Paper, Refusal? Refusal)> Keep(Guid sitting, Exhibit exhibit, IReadOnlyCollection<Mark> marks)
    {
        if (exhibit.Pages is not { } shown) return (null, new Refusal(Reason.NoPages));
        var file = shown.File is { } kept ? await files.Find(sitting, Guid.Parse(kept)) : null;
        if (file is null && shown.File is not null) return (null, new Refusal(Reason.FileGone));
        try
        {
            if (file is { Size: <= SessionPapers.Largest } && marks.Count == 0)
                return await Put(sitting, file.Name, file.ContentType!, await File.ReadAllBytesAsync(files.PathOf(file.Id)));
            var content = await pages.Export(file, shown, marks, CancellationToken.None);
            if (content.Length > SessionPapers.Largest) return (null, new Refusal(Reason.TooLargeForPapers));
            var name = $"{exhibit.Letter} {exhibit.Title}".Trim().Replace('/', ' ').Replace('\\', ' ');
            return await Put(sitting, $"{name}.pdf", "application/pdf", content);
        }
        catch (PageException)
        {
            return (null, new Refusal(Reason.NoPages, Remedy.TryAgain));
        }
    }

    private async Task<(long? Paper, Refusal? Refusal)> Put(Guid sitting, string name, string type, byte[] content)
    {
        await using var db = await databases.CreateDbContextAsync();
        var session = await db.Sittings.Where(one => one.Id == sitting).Select(one => one.SessionId).SingleAsync();
        return await SessionPapers.Add(db, session, name, type, content, time.GetUtcNow().ToUnixTimeMilliseconds()) is { } paper
            ? (paper, null)
            : (null, new Refusal(Reason.PapersFull));
    }

    /// <summary>It was kept in vain: what it was kept of has gone meanwhile.</summary>
    public async Task Drop(long paper)
    {
        await using var db = await databases.CreateDbContextAsync();
        await db.Papers.Where(kept => kept.Id == paper).ExecuteDeleteAsync();
    }
}
