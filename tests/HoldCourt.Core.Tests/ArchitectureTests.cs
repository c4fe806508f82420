using System.Text.Json;
using System.Text.RegularExpressions;
using NetArchTest.Rules;

namespace HoldCourt.Core.Tests;

/// <summary>The direction of dependence: web → server → store → core, and nothing of the outside in the core.</summary>
public class ArchitectureTests
{
    [Fact]
    public void The_core_knows_no_other_layer_no_package_and_no_io()
    {
        var core = typeof(Sitting).Assembly;
        core.GetReferencedAssemblies().Select(name => name.Name!).ShouldAllBe(name => name.StartsWith("System.", StringComparison.Ordinal));
        var result = Types.InAssembly(core).ShouldNot().HaveDependencyOnAny(
            "System.IO.File", "System.IO.Directory", "System.Net", "System.Threading.Tasks").GetResult();
        result.IsSuccessful.ShouldBeTrue(string.Join(", ", result.FailingTypeNames ?? []));
    }

    [Fact]
    public void The_core_asks_no_clock_and_no_dice()
    {
        var forbidden = new Regex(
            @"\b(DateTime(Offset)?\.(Now|UtcNow|Today)|Stopwatch|Environment\.|TimeProvider|Guid\.NewGuid|Random\.Shared|"
                + @"new Random\(|RandomNumberGenerator|Thread\.|Task\.)");
        Sources("HoldCourt.Core")
            .SelectMany(file => File.ReadLines(file)
            .Where(line => !line.TrimStart().StartsWith("//", StringComparison.Ordinal) && forbidden.IsMatch(line)))
            .ShouldBeEmpty();
    }

    /// <summary>What somebody may do is asked of Powers, what they may know
    /// of Knowledge, and who is let in of the door's threshold.</summary>
    [Fact]
    public void Roles_are_compared_in_three_places()
    {
        string[] places = ["Powers.cs", "Knowledge.cs", "Threshold.cs", "Likeness.cs", "Seat.cs"];
        var compares = new Regex(@"\bOnBench\b|\b[rR]ole\s*(>=|<=|<|>)\s*Role\.");
        foreach (var project in new[] { "HoldCourt.Core", "HoldCourt.Server" })
            Sources(project).Where(file => !places.Contains(Path.GetFileName(file)))
                .SelectMany(file => File.ReadLines(file).Where(line => compares.IsMatch(line))
                .Select(line => $"{Path.GetFileName(file)}: {line.Trim()}")).ShouldBeEmpty();
    }

    private static IEnumerable<string> Sources(string project) =>
        Directory.EnumerateFiles(Path.Combine(Repository.Root, "src", project), "*.cs", SearchOption.AllDirectories)
        .Where(file => !file.Contains($"{Path.DirectorySeparatorChar}obj{Path.DirectorySeparatorChar}", StringComparison.Ordinal));

    [Theory]
    [InlineData("HoldCourt.Core", "")]
    [InlineData("HoldCourt.Store", "HoldCourt.Core")]
    [InlineData("HoldCourt.Server", "HoldCourt.Store")]
    public void Each_project_refers_to_the_layer_below_alone(string project, string allowed)
    {
        var text = File.ReadAllText(Path.Combine(Repository.Root, "src", project, project + ".csproj"));
        var references = System.Xml.Linq.XDocument.Parse(text).Descendants("ProjectReference")
            .Select(element => Path.GetFileNameWithoutExtension(element.Attribute("Include")!.Value.Split('/')[^1]));
        references.ShouldBe(allowed.Length == 0 ? [] : [allowed]);
    }

    [Fact]
    public void A_union_reads_each_of_its_members_by_name_and_no_member_of_another()
    {
        foreach (var union in new[] { typeof(SeatCommand), typeof(HouseCommand), typeof(Fact) })
            CoreJson.MembersOf(union).Select(CoreJson.NameOf).ShouldBeUnique();
        JsonSerializer.Deserialize<SeatCommand>("""{"do":"mute","seats":[3]}""", CoreJson.Options)
            .ShouldBeOfType<Mute>().Seats.ShouldBe([new SeatId(3)]);
        foreach (var house in CoreJson.MembersOf(typeof(HouseCommand)))
            Should.Throw<Exception>(() =>
                JsonSerializer.Deserialize<SeatCommand>($$"""{"do":"{{CoreJson.NameOf(house)}}"}""", CoreJson.Options))
                .ShouldBeAssignableTo<JsonException>();
    }

    /// <summary>What a name stands for is found by it alone, in all the topics' parts.</summary>
    [Fact]
    public void Reasons_and_capabilities_are_named_once()
    {
        Named.All<Reason>().Select(reason => reason.Name).ShouldBeUnique();
        Named.All<Capability>().Select(capability => capability.Name).ShouldBeUnique();
        foreach (var reason in Named.All<Reason>())
            JsonSerializer.Deserialize<Reason>(JsonSerializer.Serialize(reason, CoreJson.Options), CoreJson.Options).ShouldBe(reason);
        Should.Throw<JsonException>(() => JsonSerializer.Deserialize<Reason>("\"noSuchReason\"", CoreJson.Options));
        // Each order gives something, or nobody would notice it.
        Named.All<Capability>().Select(capability => capability.ByOrder).OfType<Order>()
            .ShouldBe(Enum.GetValues<Order>(), ignoreOrder: true);
    }
}
