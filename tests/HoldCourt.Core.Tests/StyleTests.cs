using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.CodeAnalysis;
using Microsoft.CodeAnalysis.CSharp;
using Microsoft.CodeAnalysis.CSharp.Syntax;

namespace HoldCourt.Core.Tests;

/// <summary>What is agreed on for all code here: docs/words.md, and lines that can be read without scrolling.</summary>
public partial class StyleTests
{
    private const int LongestLine = 140;

    /// <summary>Methods that take any number of values of one kind.</summary>
    private static readonly string[] _takeMany = ["Choose", "Frequency", "Run", "Ran", "Trim", "Scale", "FromArgb", "ToArgb"];

    /// <summary>A word of docs/words.md, and the names in which it may stand; none elsewhere, so that it says one thing.</summary>
    private static readonly (string Word, Regex MayStandIn)[] _words =
    [
        ("Sheet", new Regex("RunSheet|^(OpenSheet|OfSheet|MostOfSheet|SheetGrew|SheetFull|NoSheet)$")),
        ("Trouble", new Regex("^(TroubleRow|TellTrouble|_?[tT]rouble)$")),
        ("Told", new Regex("^$")),
        ("Part", new Regex("^(PartOfName)$"))
    ];

    [Fact]
    public void No_line_is_longer_than_140_characters() =>
        Files("src", "tests", "bench", "web/src", "tools").SelectMany(file => File.ReadLines(file)
            .Select((line, at) => (Line: line, At: at)).Where(one => one.Line.Length > LongestLine)
            .Select(one => $"{file}:{one.At + 1}"))
            .ShouldBeEmpty();

    [Fact]
    public void No_ten_arguments_in_a_row_go_without_their_names() =>
        Trees().SelectMany(tree => tree.GetRoot().DescendantNodes().OfType<ArgumentListSyntax>()
            .Where(list => Callee(list) is var callee && !_takeMany.Contains(callee) && Unnamed(list) >= 10)
            .Select(list => $"{tree.FilePath}:{list.GetLocation().GetLineSpan().StartLinePosition.Line + 1}"))
            .ShouldBeEmpty();

    [Fact]
    public void A_word_has_one_meaning_in_the_names_of_types_and_members() =>
        Trees().SelectMany(tree => tree.GetRoot().DescendantNodes().OfType<MemberDeclarationSyntax>().SelectMany(Names)
            .Where(name => _words.Any(one => HasWord(name, one.Word) && !one.MayStandIn.IsMatch(name)))
            .Select(name => $"{tree.FilePath}: {name}"))
            .ShouldBeEmpty();

    private static bool HasWord(string name, string word) => Regex.IsMatch(name, $"(^|[a-z_]){word}(?![a-z])");

    private static IEnumerable<string> Names(MemberDeclarationSyntax member) => member switch
    {
        BaseTypeDeclarationSyntax type => [type.Identifier.Text],
        MethodDeclarationSyntax method when !method.Identifier.Text.Contains('_', StringComparison.Ordinal) => [method.Identifier.Text],
        PropertyDeclarationSyntax property => [property.Identifier.Text],
        FieldDeclarationSyntax field => field.Declaration.Variables.Select(variable => variable.Identifier.Text),
        _ => []
    };

    private static string? Callee(ArgumentListSyntax list) => list.Parent switch
    {
        InvocationExpressionSyntax { Expression: MemberAccessExpressionSyntax member } => member.Name.Identifier.Text,
        InvocationExpressionSyntax { Expression: SimpleNameSyntax name } => name.Identifier.Text,
        _ => null
    };

    private static int Unnamed(ArgumentListSyntax list)
    {
        var (row, most) = (0, 0);
        foreach (var argument in list.Arguments) most = Math.Max(most, row = argument.NameColon is null ? row + 1 : 0);
        return most;
    }

    private static IEnumerable<SyntaxTree> Trees() => Files("src", "tests", "bench")
        .Where(file => file.EndsWith(".cs", StringComparison.Ordinal))
        .Select(file => CSharpSyntaxTree.ParseText(File.ReadAllText(file), path: file));

    private static IEnumerable<string> Files(params string[] folders) => folders
        .SelectMany(folder => Directory.EnumerateFiles(Path.Combine(Repository.Root, folder), "*", SearchOption.AllDirectories))
        .Where(file => Ours().IsMatch(file) && !Made().IsMatch(file));

    [GeneratedRegex(@"\.(cs|tsx?|mjs)$")]
    private static partial Regex Ours();

    /// <summary>What is made by a tool, or is not ours.</summary>
    [GeneratedRegex(@"/(obj|bin|node_modules|Migrations|test-results)/|\.generated\.")]
    private static partial Regex Made();

    /// <summary>What runs beside the requests has its sentence in both catalogues, so that the keeper reads no bare name.</summary>
    [Fact]
    public void What_is_supervised_has_a_name_that_the_keeper_reads()
    {
        var names = Files("src").SelectMany(file => Supervised().Matches(File.ReadAllText(file)).Select(match => match.Groups[1].Value))
            .Distinct().ToList();
        names.Count.ShouldBeGreaterThan(10);
        foreach (var language in new[] { "en", "pl" })
        {
            using var catalogue = JsonDocument.Parse(
                File.ReadAllText(Path.Combine(Repository.Root, "web", "src", "locales", $"{language}.json")));
            var texts = catalogue.RootElement.GetProperty("house").GetProperty("works");
            foreach (var name in names) texts.TryGetProperty(name, out _).ShouldBeTrue($"{name} in {language}");
        }
    }

    [GeneratedRegex("(?:upervisor\\.(?:Begin|Once|Turn|Note|Keep)\\(|override string Name => |const string Name = )\"([a-zA-Z-]+)\"")]
    private static partial Regex Supervised();
}
