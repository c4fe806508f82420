using System.Reflection;
using NetArchTest.Rules;

namespace HoldCourt.Core.Tests;

/// <summary>The direction of dependence: web → server → store → core, and nothing of the outside in the core.</summary>
public class ArchitectureTests
{
    [Fact]
    public void The_core_knows_no_other_layer_no_package_no_clock_and_no_io()
    {
        var core = typeof(Sitting).Assembly;
        core.GetReferencedAssemblies().Select(name => name.Name!).ShouldAllBe(name => name.StartsWith("System.", StringComparison.Ordinal));
        var result = Types.InAssembly(core).ShouldNot().HaveDependencyOnAny(
            "System.IO.File", "System.Net", "System.Random", "System.TimeProvider", "System.Threading.Tasks").GetResult();
        result.IsSuccessful.ShouldBeTrue(string.Join(", ", result.FailingTypeNames ?? []));
    }

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
    public void Every_command_and_fact_has_a_name_on_the_wire()
    {
        foreach (var root in new[] { typeof(SeatCommand), typeof(HouseCommand), typeof(Fact) })
        {
            var named = root.GetCustomAttributes<System.Text.Json.Serialization.JsonDerivedTypeAttribute>().Select(a => a.DerivedType).ToHashSet();
            root.Assembly.GetTypes().Where(type => type.IsSubclassOf(root) && !type.IsAbstract)
                .ShouldAllBe(type => named.Contains(type));
        }
    }
}

internal static class Repository
{
    public static string Root { get; } = Find(AppContext.BaseDirectory);

    private static string Find(string folder) =>
        File.Exists(Path.Combine(folder, "HoldCourt.slnx")) ? folder : Find(Path.GetDirectoryName(folder)!);
}
