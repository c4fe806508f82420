using Microsoft.CodeAnalysis;
using Microsoft.CodeAnalysis.CSharp;
using Microsoft.CodeAnalysis.CSharp.Syntax;

namespace HoldCourt.Core.Tests;

/// <summary>What serves all topics names none: a topic is added in its folders, in the catalogues, and by a line in each list.</summary>
public class TopicTests
{
    /// <summary>What a sitting itself is made of: how people come, stay and leave, and how it is seen. Other folders are topics'.</summary>
    private static readonly string[] _kernel = ["Sittings", "Views", "Admission", "People", "Orders", "Ledger"];

    [Theory]
    [InlineData("HoldCourt.Server/Sittings/SittingGrain.cs")]
    [InlineData("HoldCourt.Server/Sittings/SittingGrain.Lines.cs")]
    [InlineData("HoldCourt.Server/Sittings/SittingLoader.cs")]
    [InlineData("HoldCourt.Server/Topics/TopicWork.cs")]
    [InlineData("HoldCourt.Server/Topics/ISittingInside.cs")]
    [InlineData("HoldCourt.Store/Ledger/EntryWriter.cs")]
    [InlineData("HoldCourt.Core/Views/Facets.cs")]
    [InlineData("HoldCourt.Core/Views/Projection.cs")]
    public void A_shell_names_no_topic(string shell)
    {
        var source = Path.Combine(Repository.Root, "src");
        var topics = Directory.EnumerateDirectories(Path.Combine(source, "HoldCourt.Core")).Select(Path.GetFileName)
            .Except([.. _kernel, "bin", "obj"]).ToHashSet();
        topics.Count.ShouldBeGreaterThan(15);
        var named = new[] { "HoldCourt.Core", "HoldCourt.Server" }
            .SelectMany(project => topics.Select(topic => Path.Combine(source, project, topic!))).Where(Directory.Exists)
            .SelectMany(TypesIn).Except(_kernel.SelectMany(folder => TypesIn(Path.Combine(source, "HoldCourt.Core", folder)))).ToHashSet();
        named.Count.ShouldBeGreaterThan(300);
        var tree = CSharpSyntaxTree.ParseText(File.ReadAllText(Path.Combine(source, shell)));
        tree.GetRoot().DescendantNodes().OfType<SimpleNameSyntax>().Where(MayBeType).Select(name => name.Identifier.Text)
            .Except(TypesOf(tree)).Where(named.Contains).ShouldBeEmpty();
    }

    private static IEnumerable<string> TypesIn(string folder) => Directory.EnumerateFiles(folder, "*.cs", SearchOption.AllDirectories)
        .SelectMany(file => TypesOf(CSharpSyntaxTree.ParseText(File.ReadAllText(file))));

    private static IEnumerable<string> TypesOf(SyntaxTree tree) =>
        tree.GetRoot().DescendantNodes().OfType<BaseTypeDeclarationSyntax>().Select(type => type.Identifier.Text);

    /// <summary>Not a member of something, not a method that is called, and not a property that is given or asked.</summary>
    private static bool MayBeType(SimpleNameSyntax name) => name.Parent switch
    {
        MemberAccessExpressionSyntax member => member.Expression == name,
        MemberBindingExpressionSyntax or NameColonSyntax or ExpressionColonSyntax => false,
        InvocationExpressionSyntax call => call.Expression != name,
        AssignmentExpressionSyntax { Parent: InitializerExpressionSyntax } given => given.Left != name,
        _ => true
    };
}
