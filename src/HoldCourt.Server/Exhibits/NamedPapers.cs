using HoldCourt.Server.Topics;
using HoldCourt.Server.Workload;

namespace HoldCourt.Server.Exhibits;

/// <summary>Brings papers onto the shelf of a sitting that something there asks for by their names.</summary>
internal sealed partial class NamedPapers(Bringing bringing, Supervisor supervisor, ILogger<NamedPapers> log)
{
    /// <summary>Titles of papers that are being brought.</summary>
    private readonly HashSet<string> _underWay = new(StringComparer.OrdinalIgnoreCase);

    /// <param name="titles">What is asked for; what is not on the shelf already is looked for among the session's papers.</param>
    /// <param name="shows">Each is shown as soon as its pages are there.</param>
    public void Begin(ISittingInside inside, Actor by, Func<IReadOnlyList<string>> titles, bool shows)
    {
        if (by.Seat is not { } seat) return;
        supervisor.Begin("papers", async () =>
        {
            foreach (var title in titles()) await Bring(inside, seat, title, shows);
        });
    }

    private async Task Bring(ISittingInside inside, SeatId by, string title, bool shows)
    {
        // Whoever wishes it twice brings it once.
        if (inside.Latest.Named(title) is not null || inside.Latest.Shelf.IsFull || !_underWay.Add(title)) return;
        try { await bringing.Named(inside.Id, inside.Latest.Seats[by].Person, by, title, shows); }
        catch (Exception e) { LogNotBrought(e, inside.Id); }
        finally { _underWay.Remove(title); }
    }

    [LoggerMessage(LogLevel.Warning, "Sitting {Sitting}: a paper that is to be shown could not be brought")]
    private partial void LogNotBrought(Exception e, Guid sitting);
}
