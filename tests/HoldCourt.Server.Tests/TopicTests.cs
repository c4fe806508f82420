using System.Collections.Immutable;
using System.Reflection;
using HoldCourt.Server.Api;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Topics;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Ledger;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Server.Tests;

/// <summary>What topics do beside the rules of a sitting.</summary>
public class TopicTests
{
    /// <summary>Between grains of one process nothing is copied: whoever could change what another holds would change it unseen.</summary>
    [Fact]
    public void What_goes_between_grains_can_be_changed_by_nobody()
    {
        var grains = typeof(ISittingGrain).Assembly.GetTypes()
            .Where(type => type.IsInterface && (type.IsAssignableTo(typeof(IGrain)) || type.IsAssignableTo(typeof(IGrainExtension))))
            .ToArray();
        grains.Length.ShouldBeGreaterThan(8);
        HashSet<Type> seen = [];
        var changeable = new SortedSet<string>(StringComparer.Ordinal);
        foreach (var method in grains.SelectMany(grain => grain.GetMethods()))
            foreach (var type in method.GetParameters().Select(parameter => parameter.ParameterType).Append(method.ReturnType)) Look(type);
        seen.Count.ShouldBeGreaterThan(100);
        changeable.ShouldBeEmpty();

        void Look(Type type)
        {
            foreach (var inner in type.GetGenericArguments()) Look(inner);
            if (type.IsArray) Look(type.GetElementType()!);
            if (type.Namespace?.StartsWith("HoldCourt.", StringComparison.Ordinal) != true || type.IsEnum || !seen.Add(type)) return;
            foreach (var member in type.Assembly.GetTypes().Where(other => other.IsSubclassOf(type))) Look(member);
            foreach (var property in type.GetProperties(BindingFlags.Public | BindingFlags.NonPublic | BindingFlags.Instance))
            {
                if (property.SetMethod is { } set
                    && !set.ReturnParameter.GetRequiredCustomModifiers().Contains(typeof(System.Runtime.CompilerServices.IsExternalInit)))
                    changeable.Add($"{type.Name}.{property.Name} can be set");
                if (property.PropertyType.IsGenericType && property.PropertyType.Namespace == "System.Collections.Generic"
                    && !property.PropertyType.IsInterface)
                    changeable.Add($"{type.Name}.{property.Name} is a {property.PropertyType.Name}");
                Look(property.PropertyType);
            }
        }
    }

    /// <summary>Whatever a topic does wrong, each wish of the others is done once, in its time, told to everybody, and kept.</summary>
    [Fact]
    public async Task A_topic_that_throws_or_never_ends_loses_delays_and_doubles_no_wish_of_another()
    {
        var court = await Court.With(services => services.AddTopic<Throws>().AddTopic<NeverEnds>());
        try
        {
            await Broken(court);
        }
        finally
        {
            await court.DisposeAsync();
        }
    }

    private static async Task Broken(Court court)
    {
        using var hosts = await court.Host();
        var opened = await hosts.Post<OpenedSitting>("/api/sessions", new OpenNow("Broken"));
        await using var host = await hosts.Announces(opened, "Odalys");
        await Does(host, new SetDoor(DoorMode.Open));
        using var nias = court.Visitor();
        await using var nia = await nias.Announces(opened, "Nia");
        await Eventually.Holds(() => nia.Me!.Place == Place.Seated);

        var began = TimeProvider.System.GetTimestamp();
        string[] words = [.. Enumerable.Range(0, 8).Select(n => $"word {n}")];
        foreach (var word in words)
        {
            await Does(host, new Write(new Recipient(Reach.Everyone), word));
            await Does(host, new SetDoor(DoorMode.Listed));
            await Does(host, new SetDoor(DoorMode.Open));
        }
        TimeProvider.System.GetElapsedTime(began).ShouldBeLessThan(3 * TopicWork.Longest,
            "24 wishes, and none waits for what it is not about");
        await Should.ThrowAsync<Exception>(() => nia.Do(new LowerHand()));
        await Does(nia, new RaiseHand());

        await Eventually.Holds(() => WordsAt(nia).SequenceEqual(words) && WordsAt(host).SequenceEqual(words));
        await Eventually.Holds(() => host.Seats[host.SeatOf("Nia")].Hand is not null);
        var failed = court.Services.GetRequiredService<Supervisor>().Failed;
        foreach (var name in new[] { "throws", "never-ends" })
            failed.Single(row => row.Name == name).Failures.ShouldBeGreaterThan(0, name);
        (await court.Services.GetRequiredService<EntryReader>().Messages(opened.Sitting, 1, 100, long.MaxValue))
            .Select(message => message.Text).ShouldBe(words, "each stands in the store once");

        // As a page does: what failed since the line was taken up anew is wished again, as the same wish.
        static async Task Does(Live who, SeatCommand wish)
        {
            var id = Guid.NewGuid().ToString("N");
            await Eventually.Succeeds(async () => (await who.Do(wish, id)).ShouldBeNull());
        }

        static IEnumerable<string> WordsAt(Live who)
        {
            lock (who) return [.. who.Messages.DistinctBy(row => row.Number).OrderBy(row => row.Number).Select(row => row.Text)];
        }
    }

    private sealed class Throws : TopicWork
    {
        public Throws()
        {
            Before<LowerHand>((_, _, _) => throw new InvalidOperationException());
            After<RaiseHand>((_, _) => throw new InvalidOperationException());
            Every(TimeSpan.FromMilliseconds(100), () => throw new InvalidOperationException());
            At(_ => throw new InvalidOperationException());
        }

        public override string Name => "throws";
        public override void Stored(Sitting before, Sitting after, ImmutableArray<Entry> news) => throw new InvalidOperationException();
        public override Joined Welcome(Seat seat, Joined joined) => throw new InvalidOperationException();
        public override void LinesChanged() => throw new InvalidOperationException();
        public override Task Tell(Sitting before, Sitting after, ImmutableArray<Entry> news) => throw new InvalidOperationException();
        public override Task Woke() => throw new InvalidOperationException();
        public override Task Ended(Instant at) => throw new InvalidOperationException();
    }

    private sealed class NeverEnds : TopicWork
    {
        public NeverEnds()
        {
            After<RaiseHand>((_, _) => Never());
            Every(TimeSpan.FromMilliseconds(100), Never);
        }

        public override string Name => "never-ends";
        public override Task Tell(Sitting before, Sitting after, ImmutableArray<Entry> news) => Never();
        public override Task Woke() => Never();
        public override Task Ended(Instant at) => Never();

        private static Task Never() => new TaskCompletionSource().Task;
    }
}
