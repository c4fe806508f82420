using System.Collections.Concurrent;
using System.Threading.RateLimiting;

namespace HoldCourt.Server.Security;

/// <summary>
/// What one person may do in a moment, whatever number of tabs and connections it comes through. A hand makes a few
/// wishes a second; a flood is refused.
/// </summary>
public sealed class SeatLimits : IDisposable
{
    private readonly PartitionedRateLimiter<(Guid, PersonKey)> _wishes = Of(60, 20), _questions = Of(100, 40), _connections = Of(20, 1),
    _tickets = Of(20, 1), _newPeople = Of(1_500, 2), _searches = Of(20, 2), _files = Of(10, 1, seconds: 10),
    _pages = Of(300, 40), _recordings = Of(60, 10), _marks = Of(60, 30), _strokes = Of(80, 45);

    /// <summary>Most people of one sitting who ever come from one address.</summary>
    private const int MostOfOneAddress = 2_500;
    private readonly ConcurrentDictionary<(Guid, string), (int Count, long At)> _people = new();

    /// <summary>So many addresses are remembered at the most, and none for longer than a day.</summary>
    private const int MostAddresses = 50_000;
    private static readonly TimeSpan _remembered = TimeSpan.FromDays(1);

    public bool Wish(Guid sitting, PersonKey person) => Takes(_wishes, sitting, person);

    /// <summary>Typing a line asks often, and must not use up the wishes.</summary>
    public bool Question(Guid sitting, PersonKey person) => Takes(_questions, sitting, person);

    /// <summary>A question for which much has to be looked through.</summary>
    public bool Search(Guid sitting, PersonKey person) => Takes(_searches, sitting, person);

    /// <summary>A file of all that was written or done, or a check of it.</summary>
    public bool File(Guid sitting, PersonKey person) => Takes(_files, sitting, person);

    /// <summary>A page's picture or text; a line of small pictures asks for many at once.</summary>
    public bool Page(Guid sitting, PersonKey person) => Takes(_pages, sitting, person);

    /// <summary>A question about a recording, for which a sitting that is over may have to be read anew.</summary>
    public bool Recording(string browser) => Takes(_recordings, Guid.Empty, new PersonKey(browser));

    /// <summary>A mark that is kept.</summary>
    public bool Mark(Guid sitting, PersonKey person) => Takes(_marks, sitting, person);

    /// <summary>A piece of a stroke, or where a pointer is: some twenty a second.</summary>
    public bool Stroke(Guid sitting, PersonKey person) => Takes(_strokes, sitting, person);

    public bool Connection(Guid sitting, PersonKey person) => Takes(_connections, sitting, person);

    /// <summary>A person who was not here before. A hall of a thousand behind one
    /// address comes in at once; one who makes up people without end does not.</summary>
    public bool NewPerson(Guid sitting, string address)
    {
        var now = Environment.TickCount64;
        if (_people.Count > MostAddresses)
            foreach (var old in _people.Where(pair => now - pair.Value.At > _remembered.TotalMilliseconds)
                .Select(pair => pair.Key).ToList()) _people.TryRemove(old, out _);
        if (_people.AddOrUpdate((sitting, address), (1, now), (_, one) => (one.Count + 1, now)).Count > MostOfOneAddress) return false;
        return Takes(_newPeople, sitting, new PersonKey(address));
    }

    public bool Ticket(Guid sitting, PersonKey person) => Takes(_tickets, sitting, person);

    private static bool Takes(PartitionedRateLimiter<(Guid, PersonKey)> limiter, Guid sitting, PersonKey person)
    {
        using var lease = limiter.AttemptAcquire((sitting, person));
        return lease.IsAcquired;
    }

    private static PartitionedRateLimiter<(Guid, PersonKey)> Of(int burst, int each, int seconds = 1) =>
        PartitionedRateLimiter.Create<(Guid, PersonKey), (Guid, PersonKey)>(
        key => RateLimitPartition.GetTokenBucketLimiter(key, _ => new TokenBucketRateLimiterOptions
        {
            TokenLimit = burst,
            TokensPerPeriod = each,
            ReplenishmentPeriod = TimeSpan.FromSeconds(seconds),
            QueueLimit = 0,
            AutoReplenishment = true
        }));

    public void Dispose()
    {
        foreach (var limiter in new[]
            { _wishes, _questions, _connections, _tickets, _newPeople, _searches, _files, _pages, _recordings, _marks, _strokes })
            limiter.Dispose();
    }
}
