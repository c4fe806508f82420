namespace HoldCourt.Server.Api;

/// <summary>
/// Refusals over HTTP: problem details (RFC 9457) whose <c>reason</c> names a sentence in the interface's message
/// catalogue.
/// </summary>
internal static class Problems
{
    public static IResult Of(string reason, int status, IDictionary<string, object?>? more = null)
    {
        var extensions = new Dictionary<string, object?>(more ?? new Dictionary<string, object?>()) { ["reason"] = reason };
        return Results.Problem(statusCode: status, title: reason, extensions: extensions);
    }

    /// <summary>Gives the framework's own refusals a reason, too.</summary>
    public static void GiveReason(ProblemDetailsContext context) =>
        context.ProblemDetails.Extensions.TryAdd("reason", context.ProblemDetails.Status switch
        {
            404 => "noSuchAddress",
            413 => "tooLarge",
            < 500 => "notUnderstood",
            _ => "serverFailed"
        });

    public static IResult Of(Refusal refusal) => Of(
        refusal.Reason.Name, StatusCodes.Status409Conflict,
        new Dictionary<string, object?> { ["words"] = refusal.Words, ["remedy"] = refusal.Remedy });
}
