using HoldCourt.Store;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Server.Planning;

/// <summary>The papers of a session, however they came there.</summary>
internal static class SessionPapers
{
    public const int Most = 100;

    /// <summary>One of them, in bytes.</summary>
    public const int Largest = 20 * 1024 * 1024;

    /// <summary>Under its name, or one like it when that is taken.</summary>
    /// <param name="now">In milliseconds.</param>
    /// <returns>The paper's id; null when there are as many as may be.</returns>
    public static async Task<long?> Add(CourtDb db, Guid session, string name, string type, byte[] content, long now)
    {
        if (await db.Papers.CountAsync(paper => paper.SessionId == session) >= Most) return null;
        var paper = new Paper
        {
            SessionId = session,
            Name = await FreeName(db, session, name),
            ContentType = type,
            Content = content,
            Size = content.Length,
            AddedAt = now
        };
        db.Add(paper);
        await db.SaveChangesAsync();
        return paper.Id;
    }

    private static async Task<string> FreeName(CourtDb db, Guid session, string name)
    {
        var taken = await db.Papers.Where(paper => paper.SessionId == session).Select(paper => paper.Name).ToListAsync();
        var (stem, ending) = (Path.GetFileNameWithoutExtension(name), Path.GetExtension(name));
        for (var n = 2; taken.Contains(name, StringComparer.OrdinalIgnoreCase); n++) name = $"{stem} ({n}){ending}";
        return name;
    }
}
