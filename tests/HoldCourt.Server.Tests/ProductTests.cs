using System.Diagnostics;
using System.Globalization;
using System.Security.Cryptography.X509Certificates;
using HoldCourt.Server.Api;
using HoldCourt.Server.Contract;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Security;
using HoldCourt.Store;
using Microsoft.Data.Sqlite;
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
        File.ReadAllText(Path.Combine(root, "web", "src", "contract.generated.ts"))
            .ShouldBe(TypeScriptContract.Generate(), "build src/HoldCourt.Server and commit the file");
    }

    [Fact]
    public async Task The_database_has_the_form_that_the_code_expects()
    {
        await using var db = await court.Services.GetRequiredService<IDbContextFactory<CourtDb>>().CreateDbContextAsync();
        db.Database.HasPendingModelChanges().ShouldBeFalse("add a migration");
        (await db.Database.GetPendingMigrationsAsync()).ShouldBeEmpty();
    }

    [Fact]
    public async Task With_a_certificate_of_its_own_the_server_is_reached_securely_and_keeps_it()
    {
        var folder = Directory.CreateTempSubdirectory("hold-court-test-").FullName;
        string? before = null;
        foreach (var round in new[] { "first start", "second start" })
        {
            await using var app = CourtHost.Build(["--urls", "https://127.0.0.1:0", "--Https:OwnCertificate", "true", "--Data:Folder",
                folder, "--Data:Pooling", "false"]);
            await app.StartAsync();
            X509Certificate2? shown = null;
            using var http = new HttpClient(new HttpClientHandler
            {
                ServerCertificateCustomValidationCallback = (_, certificate, _, _) =>
                (shown = new X509Certificate2(certificate!)) is not null
            });
            (await http.GetStringAsync(new Uri(app.Urls.Single()) + "api/me")).ShouldContain("token");
            shown!.MatchesHostname("localhost").ShouldBeTrue(round);
            OwnCertificate.Addresses().ShouldAllBe(address => shown.MatchesHostname(address.ToString(), true, true));
            (before ??= shown.Thumbprint).ShouldBe(shown.Thumbprint, round);
            using var given = X509Certificate2.CreateFromPem(await File.ReadAllTextAsync(Path.Combine(folder, OwnCertificate.PublicFile)));
            given.Thumbprint.ShouldBe(shown.Thumbprint);
            await app.StopAsync(new CancellationToken(true));
        }
        if (!OperatingSystem.IsWindows())
            File.GetUnixFileMode(Path.Combine(folder, "certificate.pfx"))
            .ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite, "the key is its owner's alone");
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task The_command_that_verifies_ledgers_names_the_entry_that_was_altered_and_fails()
    {
        var own = new Court();
        await own.InitializeAsync();
        using (var host = await own.Host())
        {
            foreach (var title in new[] { "Whole", "Altered" })
            {
                await using var live = await host.Announces(await host.Post<OpenedSitting>("/api/sessions", new OpenNow(title)), "Odalys");
                await live.Done(new LockDoor($"{title} words", false));
            }
        }
        await own.Stop();
        (await Verify()).ShouldSatisfyAllConditions(
            said => said.Code.ShouldBe(0), said =>
                said.Text.ShouldContain("Whole: "), said => said.Text.ShouldContain("2 sittings checked, 0 broken."));

        await using (var disk = new SqliteConnection($"Data Source={Path.Combine(own.Folder, "hold-court.db")};Pooling=False"))
        {
            await disk.OpenAsync();
            await using var alter = disk.CreateCommand();
            alter.CommandText = "update Entries set Json = replace(Json, 'Altered words', 'Other words') where Json like '%Altered "
                + "words%' returning Sequence";
            var sequence = Convert.ToInt64(await alter.ExecuteScalarAsync(), CultureInfo.InvariantCulture);
            (await Verify()).ShouldSatisfyAllConditions(
                said => said.Code.ShouldBe(1), said => said.Text.ShouldContain($"Altered: entry {sequence} of "), said =>
                    said.Text.ShouldContain("2 sittings checked, 1 broken."));
        }
        await own.DisposeAsync();

        async Task<(int Code, string Text)> Verify()
        {
            var program = Path.Combine(AppContext.BaseDirectory, "HoldCourt.Server.dll");
            using var run = Process.Start(new ProcessStartInfo("dotnet",
                [program, "ledger", "verify", "--Data:Folder", own.Folder])
            { RedirectStandardOutput = true })!;
            var text = await run.StandardOutput.ReadToEndAsync();
            await run.WaitForExitAsync();
            return (run.ExitCode, text);
        }
    }

    [Theory]
    [InlineData("http://127.0.0.1:5080", "http://localhost:5080", false)]
    [InlineData("https://[::]:5080", "https://localhost:5080", true)]
    [InlineData("http://localhost:5080", "http://localhost:5080", false)]
    public void It_tells_under_which_addresses_it_is_reached(string bound, string here, bool elsewhere)
    {
        var addresses = ServerAddresses.Of(bound);
        addresses.Here.ShouldBe(here);
        addresses.Elsewhere.Count.ShouldBe(elsewhere ? OwnCertificate.Addresses().Count : 0);
        addresses.Elsewhere.ShouldAllBe(address => Uri.IsWellFormedUriString(address, UriKind.Absolute)
            && address.EndsWith(":5080", StringComparison.Ordinal));
    }

    [Fact]
    public async Task The_assembly_opens_with_twelve_wardens_inside_who_are_seen_and_heard_and_one_soon_at_the_door()
    {
        var host = await court.Host();
        var assembly = (await host.Get<List<SessionCard>>("/api/sessions"))
            .Single(session => session.Title.StartsWith("Spring", StringComparison.Ordinal));
        var opened = await host.Post<OpenedSitting>($"/api/sessions/{assembly.Id}/open");
        await using var live = await host.Announces(opened, "Odalys Brandt");
        await Eventually.Holds(() => live.Seats.Values.Count(row => row.Place == Place.Seated) == 13);
        await Eventually.Holds(() => live.Seats.Values.Count(row => row.CameraOn) == 10);
        using var media = await live.Media();
        await media.Wishes([.. live.Seats.Values.Where(row => row.CameraOn).Select(row => (row.Id, 90))]);
        await Eventually.Holds(() => media.Frames(Kind.Audio) > 50 && media.Frames(Kind.Thumb) > 100, seconds: 20);
        await Eventually.Holds(() => live.Sitting!.Counts!.Waiting == 1, seconds: 20);
    }
}
