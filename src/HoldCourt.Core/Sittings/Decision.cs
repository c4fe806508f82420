using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace HoldCourt.Core.Sittings;

/// <summary>
/// Why something was refused. The words stand in the interface's message catalogue under the same name. Each topic declares its own
/// beside its capabilities; those here are everybody's.
/// </summary>
[JsonConverter(typeof(NamedConverter<Reason>))]
public readonly partial record struct Reason : INamed
{
    private Reason(string name) => Name = name;

    public string Name { get; }

    private static Reason New([CallerMemberName] string name = "") => new(JsonNamingPolicy.CamelCase.ConvertName(name));

    public static Reason NotOpen { get; } = New();
    public static Reason AlreadyOpen { get; } = New();
    public static Reason SittingOver { get; } = New();
    public static Reason NotInside { get; } = New();
    public static Reason NoSuchSeat { get; } = New();
    public static Reason NobodySeated { get; } = New();
    public static Reason OutOfReach { get; } = New();
    public static Reason NoChange { get; } = New();
    public static Reason NotUnderstood { get; } = New();
    public static Reason TooMany { get; } = New();
    public static Reason TooLong { get; } = New();
    public static Reason WordsTooLong { get; } = New();
    public static Reason MinutesOutOfRange { get; } = New();
    public static Reason TimeOutOfRange { get; } = New();

    /// <summary>It could not be written down.</summary>
    public static Reason NotStored { get; } = New();

    /// <summary>Another connection has taken the seat.</summary>
    public static Reason Superseded { get; } = New();

    public override string ToString() => Name;
}

/// <summary>What helps after a refusal.</summary>
public enum Remedy { None, AskHost, AskBench, WaitForLeave, ChooseAnother, Shorten, HandOverFirst, TryAgain, OpenFirst, TakePaging }

/// <summary>A "no" with its reason and remedy, and the words of the bench where there are some.</summary>
public sealed record Refusal(Reason Reason, Remedy Remedy = Remedy.None, string? Words = null);

/// <summary>The answer to a command: facts to record, or a refusal.</summary>
public sealed record Decision
{
    private Decision(ImmutableArray<Fact> facts, Refusal? refusal)
    {
        Facts = facts;
        Refusal = refusal;
    }

    public ImmutableArray<Fact> Facts { get; }
    public Refusal? Refusal { get; }

    /// <summary>It is so already, whoever made it so: a control that is pressed as its meaning changes does not do the opposite.</summary>
    public static Decision AlreadySo { get; } = new([], null);

    public static Decision Of(params ImmutableArray<Fact> facts) => new(facts, null);
    public static Decision Refused(Reason reason, Remedy remedy = Remedy.None, string? words = null) =>
        new([], new Refusal(reason, remedy, words));
    public static implicit operator Decision(Refusal refusal) => new([], refusal);
    public static implicit operator Decision(Fact fact) => Of(fact);
}
