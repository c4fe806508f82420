using HoldCourt.Core.Sittings;
using HoldCourt.Server.Api;
using HoldCourt.Server.Contract;
using HoldCourt.Store;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace HoldCourt.Server.Tests;

public class ProductTests(Court court) : IClassFixture<Court>
{
    [Fact]
    public void The_browsers_types_are_those_of_the_server()
    {
        var root = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(root, "HoldCourt.slnx"))) root = Path.GetDirectoryName(root)!;
        File.ReadAllText(Path.Combine(root, "web", "src", "contract.generated.ts")).ShouldBe(TypeScriptContract.Generate(), "build src/HoldCourt.Server and commit the file");
    }

    [Fact]
    public async Task The_database_has_the_form_that_the_code_expects()
    {
        await using var db = await court.Services.GetRequiredService<IDbContextFactory<CourtDb>>().CreateDbContextAsync();
        db.Database.HasPendingModelChanges().ShouldBeFalse("add a migration");
        (await db.Database.GetPendingMigrationsAsync()).ShouldBeEmpty();
    }

    [Fact]
    public async Task The_assembly_opens_with_twelve_wardens_inside_who_are_seen_and_heard_and_one_soon_at_the_door()
    {
        var host = await court.Host();
        var assembly = (await host.Get<List<SessionCard>>("/api/sessions")).Single(session => session.Title.StartsWith("Spring", StringComparison.Ordinal));
        var opened = await host.Post<OpenedSitting>($"/api/sessions/{assembly.Id}/open");
        await using var live = await host.Announces(opened, "Odalys Brandt");
        await Eventually.Holds(() => live.Seats.Values.Count(row => row.Place == Place.Seated) == 13);
        await Eventually.Holds(() => live.Seats.Values.Count(row => row.CameraOn) == 10);
        using var media = await live.Media();
        await media.Wishes([.. live.Seats.Values.Where(row => row.CameraOn).Select(row => (row.Id, 90))]);
        await Eventually.Holds(() => media.Frames(Core.Media.FrameType.Audio) > 50 && media.Frames(Core.Media.FrameType.Thumb) > 100, seconds: 20);
        await Eventually.Holds(() => live.Sitting!.Waiting == 1, seconds: 20);
    }
}
