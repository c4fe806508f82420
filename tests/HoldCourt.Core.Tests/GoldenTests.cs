using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace HoldCourt.Core.Tests;

/// <summary>
/// Entries as earlier versions wrote them are read for ever. Each file holds whole sittings of made-up people; before the
/// entries of each stands the state that the version of then saw after them.
/// </summary>
public class GoldenTests
{
    public static TheoryData<string> Files =>
        [.. Directory.GetFiles(Path.Combine(Repository.Root, "tests", "vectors"), "entries-*.jsonl").Select(Path.GetFileName)
        .OfType<string>()];

    [Theory]
    [MemberData(nameof(Files))]
    public void Entries_of_an_earlier_version_give_the_state_they_gave_then(string file)
    {
        var (sitting, seen, sittings, kinds) = (Sitting.Empty, (JsonNode?)null, 0, new HashSet<Type>());
        foreach (var line in File.ReadLines(Path.Combine(Repository.Root, "tests", "vectors", file)).Append("# end"))
        {
            if (!line.StartsWith('#'))
            {
                var entry = JsonSerializer.Deserialize<Entry>(line, CoreJson.Options)!;
                kinds.Add(entry.Fact.GetType());
                sitting = SittingRules.Evolve(sitting, entry);
                continue;
            }
            if (seen is not null)
            {
                sittings++;
                IsAsThen(sitting, seen);
            }
            (sitting, seen) = (Sitting.Empty, line == "# end" ? null : JsonNode.Parse(line[2..]));
        }
        sittings.ShouldBeGreaterThan(10);
        kinds.Count.ShouldBeGreaterThan(38);
    }

    private static void IsAsThen(Sitting sitting, JsonNode then)
    {
        sitting.Title.ShouldBe((string?)then["title"]);
        CoreJson.NameOf(sitting.Phase).ShouldBe((string?)then["phase"]);
        (sitting.Host?.Number).ShouldBe((int?)then["host"]);
        CoreJson.NameOf(sitting.Door.Mode).ShouldBe((string?)then["door"]);
        sitting.Chat.Count.ShouldBe((int)then["chat"]!);
        if (then["visits"] is { } visits)
            sitting.Visits.ShouldBeJson(JsonSerializer.Deserialize<ImmutableList<Visit>>(visits, CoreJson.Options));
        var seats = then["seats"]!.AsArray();
        sitting.Seats.Count.ShouldBe(seats.Count);
        foreach (var (seat, was) in sitting.Seats.Zip(seats))
        {
            seat.Name.ShouldBe((string?)was!["name"]);
            CoreJson.NameOf(seat.Place).ShouldBe((string?)was["place"]);
            (seat.Exit is { } exit ? CoreJson.NameOf(exit) : null).ShouldBe((string?)was["exit"]);
            seat.MicrophoneOpen.ShouldBe((bool)was["microphoneOpen"]!);
            seat.CameraOn.ShouldBe((bool)was["cameraOn"]!);
            CoreJson.NameOf(seat.Role).ShouldBe((string?)was["role"]);
            if (was["match"] is null) continue;
            CoreJson.NameOf(seat.Recognition.Match).ShouldBe((string?)was["match"], $"{seat.Id} {seat.Name}");
            seat.Recognition.Line.ShouldBe((int?)was["line"]);
            seat.LooksLike.ShouldBe((string?)was["looksLike"]);
        }
    }
}
