using System.Collections.Immutable;
using HoldCourt.Server.Sittings;
using HoldCourt.Store.Ledger;

namespace HoldCourt.Server.Topics;

/// <summary>
/// What a topic does in one sitting beside the rules. There is one for each sitting that is awake, and what it remembers goes with it.
/// <para>
/// All of it is called on the sitting's own scheduler, one at a time, in the order of <see cref="TopicSetup"/>: nothing here needs a lock,
/// and nothing here may hold its thread. What waits lets other wishes go on meanwhile, so the state may be another one afterwards. No
/// topic may count on another's having been called.
/// </para>
/// <para>
/// What it throws is counted under its name, and shown to the keeper. What a topic does about a wish is asked for by the kind of the wish,
/// so that it can refuse, fail or hold up that kind alone. Telling that takes long is waited for by nobody; all else is over after
/// <see cref="Longest"/> for whoever waits for it.
/// </para>
/// </summary>
internal abstract class TopicWork
{
    /// <summary>Longest that a sitting waits for what a topic does beside the wishes.</summary>
    public static readonly TimeSpan Longest = TimeSpan.FromSeconds(5);

    private readonly List<(Type Wish, Func<Actor, Command, string?, Task<Prepared>> Prepare)> _before = [];
    private readonly List<(Type Wish, Func<Command, Task<Func<Sitting, Sitting>?>> Recall)> _recalls = [];
    private readonly List<(Type Wish, Func<Command, Command> Complete)> _atDecision = [];
    private readonly List<(Type Wish, Func<Command, Decision, StoredWith> Store)> _with = [];
    private readonly List<(Type Wish, Func<Actor, Command, Task> Do)> _after = [];
    private readonly List<(TimeSpan Every, Func<Task> Look)> _looks = [];
    private readonly List<(Func<Sitting, Instant?> Due, ImmutableArray<HouseCommand> Wishes)> _clocks = [];

    /// <summary>As the keeper reads it, from the message catalogue.</summary>
    public abstract string Name { get; }

    /// <summary>The sitting. It is there before anything else is called.</summary>
    public ISittingInside Inside { get; set; } = null!;

    /// <summary>Before a wish of this kind is decided: adds what only the server knows, or refuses. It may wait.</summary>
    protected void Before<T>(Func<Actor, T, string?, Task<Prepared>> prepare) where T : Command =>
        _before.Add((typeof(T), (by, wish, id) => prepare(by, (T)wish, id)));

    /// <summary>What is not in memory any more and a wish of this kind is about. It may wait.</summary>
    /// <returns>Puts it into the state for which the wish is decided; null when nothing is missing.</returns>
    protected void Recall<T>(Func<T, Task<Func<Sitting, Sitting>?>> recall) where T : class =>
        _recalls.Add((typeof(T), wish => recall((T)(object)wish)));

    /// <summary>In the instant of deciding: what may have changed since <see cref="Before"/>. It must not wait.</summary>
    protected void AtDecision<T>(Func<T, Command> complete) where T : Command =>
        _atDecision.Add((typeof(T), wish => complete((T)wish)));

    /// <summary>What is written in one transaction with the entries of a wish of this kind. It must not wait.</summary>
    protected void StoreWith<T>(Func<T, Decision, StoredWith> store) where T : Command =>
        _with.Add((typeof(T), (wish, decision) => store((T)wish, decision)));

    /// <summary>After a wish of this kind was done, and before it is answered. What takes long is begun, and not waited for.</summary>
    protected void After<T>(Func<Actor, T, Task> act) where T : Command =>
        _after.Add((typeof(T), (by, wish) => act(by, (T)wish)));

    /// <summary>Again and again, while the sitting is awake; the next one counts from the end of the one before.</summary>
    protected void Every(TimeSpan span, Func<Task> look) => _looks.Add((span, look));

    /// <summary>Once, after a while.</summary>
    protected void In(TimeSpan wait, Func<Task> act) => Inside.In(this, wait, act);

    /// <summary>When the house next has something to wish, by the state alone; and what, then. Each wish asks for itself whether its time
    /// has come.</summary>
    protected void At(Func<Sitting, Instant?> due, params ImmutableArray<HouseCommand> wishes) => _clocks.Add((due, wishes));

    public IReadOnlyList<(TimeSpan Every, Func<Task> Look)> Looks => _looks;

    public IReadOnlyList<(Func<Sitting, Instant?> Due, ImmutableArray<HouseCommand> Wishes)> Clocks => _clocks;

    public IEnumerable<Func<Actor, Command, string?, Task<Prepared>>> BeforeOf(Command wish) => Of(_before, wish);

    public IEnumerable<Func<Command, Task<Func<Sitting, Sitting>?>>> RecallsOf(Command wish) => Of(_recalls, wish);

    public IEnumerable<Func<Command, Command>> AtDecisionOf(Command wish) => Of(_atDecision, wish);

    public IEnumerable<Func<Command, Decision, StoredWith>> StoreWithOf(Command wish) => Of(_with, wish);

    public IEnumerable<Func<Actor, Command, Task>> AfterOf(Command wish) => Of(_after, wish);

    private static IEnumerable<T> Of<T>(List<(Type Wish, T Act)> all, Command wish) =>
        all.Count == 0 ? [] : all.Where(one => one.Wish.IsInstanceOfType(wish)).Select(one => one.Act);

    /// <summary>Entries are on disk; the pages have not been told yet. It must not wait.</summary>
    public virtual void Stored(Sitting before, Sitting after, ImmutableArray<Entry> news) { }

    /// <summary>The pages have the change of their views: what stands beside those. Changes are told one after the other.</summary>
    public virtual Task Tell(Sitting before, Sitting after, ImmutableArray<Entry> news) => Task.CompletedTask;

    /// <summary>Somebody's page is about to begin: adds what it has to begin with. It must not wait.</summary>
    public virtual Joined Welcome(Seat seat, Joined joined) => joined;

    /// <summary>A line came or went. It must not wait.</summary>
    public virtual void LinesChanged() { }

    /// <summary>The sitting was loaded from what is stored, running or over.</summary>
    public virtual Task Woke() => Task.CompletedTask;

    /// <summary>It is adjourned, on disk and told; called once more when one that is over wakes.</summary>
    public virtual Task Ended(Instant at) => Task.CompletedTask;
}

/// <summary>A wish, ready to be decided; or why it is refused.</summary>
/// <param name="Over">Called when it is over, with whether it was done.</param>
internal sealed record Prepared(Command Wish, Refusal? Refusal = null, Func<bool, Task>? Over = null);

/// <summary>What goes into the same transaction as entries; or why they cannot be written.</summary>
internal sealed record StoredWith(IStoredWith? Row = null, Refusal? Refusal = null)
{
    public static StoredWith Nothing { get; } = new();
}
