using System.Collections.Immutable;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.CommandLine;

/// <summary>What is asked of the command line of a sitting.</summary>
internal interface ISittingLine : IGrainExtension
{
    /// <summary>What a line of the command line means.</summary>
    Task<ReadingRow> Read(SeatId by, string line, ImmutableArray<NamedPreset> presets, string language);
}

/// <summary>A line as it was understood, and what Enter would do.</summary>
/// <param name="Command">Null while there is trouble.</param>
public sealed record ReadingRow(SeatCommand? Command, Misreading? Misreading, string? About, ImmutableArray<string> Completions,
    ForesightRow? Foresight);

/// <summary>Reads sentences of the bench.</summary>
internal sealed class LineWork : TopicWork, ISittingLine
{
    public override string Name => "line";

    public async Task<ReadingRow> Read(SeatId by, string line, ImmutableArray<NamedPreset> presets, string language)
    {
        var sitting = Inside.Shown;
        if (!sitting.KnowsBooks(by)) return new ReadingRow(null, Misreading.NotUnderstood, null, [], null);
        var reading = Reader.Read(new Scope(sitting.AtPlaceOf(sitting.Seats[by]), by, Inside.Now, presets, language), line);
        return new ReadingRow(
            reading.Command, reading.Misreading, reading.About, reading.Completions, reading.Command is { } command
                ? await Inside.Foresee(by, command)
                : null);
    }
}
