using HoldCourt.Server.Planning;
using HoldCourt.Store.Planning;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Server.Tests;

/// <summary>Plans and lines of a docket for tests.</summary>
internal static class Made
{
    public static Plan Planned(string title, SessionKind kind = SessionKind.Once, string? start = "2031-03-03T09:00",
        string zone = "Europe/Berlin", string? rule = null, params string[] except) => new(
            Title: title, Description: "About the weir", Kind: kind, Start: start, Minutes: 60, Zone: zone, Rule: rule, Except: except,
            EarlyEntry: true, Door: DoorMode.Attended, Orders: StandingOrders.Usual with { Speak = Audience.Presenters },
            RecordsItself: false);

    public static DocketRow Line(string name, string? email = null, string? slot = null, int? minutes = null, Role role = Role.Attendee) =>
        new(null, name, email, role, null, slot, minutes, Answer.None, null);

    public static Instant Utc(string time) =>
        new(DateTimeOffset.Parse(time + "Z", System.Globalization.CultureInfo.InvariantCulture).ToUnixTimeMilliseconds());

    public static Workload.Supervisor Supervisor() => new(TimeProvider.System,
        new ServiceCollection().AddMetrics().BuildServiceProvider()
            .GetRequiredService<System.Diagnostics.Metrics.IMeterFactory>(),
        Microsoft.Extensions.Logging.Abstractions.NullLogger<Workload.Supervisor>.Instance);
}
