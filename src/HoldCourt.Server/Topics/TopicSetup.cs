using HoldCourt.Server.Admission;
using HoldCourt.Server.Captions;
using HoldCourt.Server.Chat;
using HoldCourt.Server.CommandLine;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Handouts;
using HoldCourt.Server.Ledger;
using HoldCourt.Server.Lending;
using HoldCourt.Server.Media;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Polls;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Rooms;
using HoldCourt.Server.Signs;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Server.Topics;

/// <summary>What topics do beside the rules, a line for each; they are called in this order.</summary>
internal static class TopicSetup
{
    public static IServiceCollection AddTopics(this IServiceCollection services) => services
        .AddScoped<Trouble>().AddScoped<NamedPapers>().AddScoped<KeptPapers>()
        // A recording looks up what is missing of it before the relay writes anything more.
        .AddTopic<RecordingWork>()
        .AddTopic<StageWork>()
        .AddTimed(EndTurn.Due, new EndTurn())
        .AddTimed(EndRecess.Due, new EndRecess())
        .AddTopic<PollWork>()
        .AddTopic<ItemWork>()
        .AddTopic<RoomWork>()
        .AddTimed(Succession.Due, new Succeed())
        .AddTopic<LendingWork>()
        .AddTopic<ExhibitWork>()
        .AddTopic<HandoutWork>()
        .AddTopic<ChatWork>()
        .AddTopic<CaptionWork>()
        .AddTopic<SignWork>()
        .AddTopic<ForecastWork>()
        .AddTopic<DoorWork>()
        .AddTopic<LedgerWork>()
        .AddTopic<LineWork>()
        .AddTopic<SittingsTable>();

    /// <summary>One for each sitting that is awake. What is asked of it goes by the extensions of the grain that it is.</summary>
    public static IServiceCollection AddTopic<T>(this IServiceCollection services) where T : TopicWork
    {
        services.AddScoped<T>().AddScoped<TopicWork>(each => each.GetRequiredService<T>());
        var extension = typeof(IGrainExtension);
        foreach (var asked in typeof(T).GetInterfaces().Where(one => one != extension && one.IsAssignableTo(extension)))
            services.AddKeyedScoped<IGrainExtension>(asked, (each, _) => (IGrainExtension)each.GetRequiredService<T>());
        return services;
    }

    /// <summary>Of a topic that has nothing but a time at which the house wishes something.</summary>
    private static IServiceCollection AddTimed(this IServiceCollection services, Func<Sitting, Instant?> due, HouseCommand wish) =>
        services.AddScoped<TopicWork>(_ => new TimedWork(due, wish));

    /// <summary>What is asked of a topic in a sitting.</summary>
    public static T In<T>(this IGrainFactory grains, Guid sitting) where T : IGrainExtension =>
        grains.GetGrain<ISittingGrain>(sitting).AsReference<T>();

    private sealed class TimedWork : TopicWork
    {
        public TimedWork(Func<Sitting, Instant?> due, HouseCommand wish) => At(due, wish);

        public override string Name => "clock";
    }
}
