using HoldCourt.Server.Security;
using HoldCourt.Server.Workload;

namespace HoldCourt.Server.Api;

/// <param name="Place">Which part of a page.</param>
/// <param name="Kind">The name of the kind of failure, such as TypeError.</param>
public sealed record PageFailure(string? Place, string? Kind);

/// <summary>Pages tell that a part of them could not be drawn, so that somebody learns of it. Nobody's words are in it.</summary>
internal static class PageFailureEndpoints
{
    private const string Name = "drawing";

    private static readonly string[] _places = ["page", "ribbon", "board", "picture", "strip", "side", "card"];

    /// <summary>What browsers call their own failures; of any other it is known that it was one.</summary>
    private static readonly string[] _kinds =
    [
        "TypeError", "RangeError", "ReferenceError", "SyntaxError", "URIError", "AggregateError", "NotAllowedError", "NotFoundError",
        "NotReadableError", "NotSupportedError", "InvalidStateError", "OperationError", "QuotaExceededError", "SecurityError", "AbortError",
        "TimeoutError", "DataError", "EncodingError", "NetworkError"
    ];

    public static void MapPageFailures(this IEndpointRouteBuilder api) =>
        api.MapPost("/page-failures", (PageFailure failure, Supervisor supervisor) =>
        {
            if (Array.IndexOf(_places, failure.Place) < 0) return Problems.Of("notUnderstood", 400);
            var kind = Array.IndexOf(_kinds, failure.Kind) < 0 ? "Error" : failure.Kind;
            var words = $"{kind} ({failure.Place})";
            supervisor.Note(Name, new InvalidOperationException(words), kind: words);
            return Results.NoContent();
        }).RequireRateLimiting(SecuritySetup.Door);
}
