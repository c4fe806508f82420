using HoldCourt.Server.Chat;
using HoldCourt.Server.Ledger;
using System.Globalization;
using System.Text;
using System.Text.Json;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Polls;
using HoldCourt.Server.Security;
using HoldCourt.Server.Texts;
using HoldCourt.Server.Workload;
using HoldCourt.Store.Ledger;
using HoldCourt.Server.Topics;

namespace HoldCourt.Server.Api;

/// <param name="Entries">How many the ledger has.</param>
/// <param name="FirstBreak">The first that was altered, or before which one is missing; null when the chain is whole.</param>
/// <param name="Digest">The last entry's digest in hexadecimal. Whoever
/// writes it down can tell later that nothing was changed since.</param>
public sealed record LedgerCheckRow(int Entries, long? FirstBreak, string Digest);

/// <summary>What people take home from a sitting: the chat as they may read it, and the ledger.</summary>
internal static class SittingEndpoints
{
    private static readonly UTF8Encoding _utf8 = new(encoderShouldEmitUTF8Identifier: false);

    public static void MapSittings(this IEndpointRouteBuilder api)
    {
        var sitting = api.MapGroup("/sittings/{id:guid}").AddEndpointFilter(TakesInTurn);
        sitting.MapGet("/chat.{format}",
            async (Guid id, string format, string? language, string? zone, HttpContext http, SeatCookies cookies, IGrainFactory grains,
            HeavyWork heavy) =>
        {
            if (cookies.Read(http, id) is not { } person || await grains.In<ISittingChat>(id).Export(person) is not { } chat)
                return Problems.Of("noSuchSitting", 404);
            return await heavy.Run(Lane.Slow, person.Value, () => format switch
            {
                "txt" => Results.File(_utf8.GetBytes(TextOf(chat, ServerTexts.In(language ?? ""), PlanTimes.Zone(zone)
                    ?? TimeZoneInfo.Utc)), "text/plain; charset=utf-8", "chat.txt"),
                "csv" => Results.File(Csv.Write(["number", "time", "from", "to", "room", "question", "text"], chat.Rows.Select(row => new[]
                {
                    row.Number.ToString(CultureInfo.InvariantCulture), TimeOf(row.At), row.Name, ToOf(row), row.Room ?? "",
                    row.Question == Question.None
                        ? ""
                        : CoreJson.NameOf(row.Question), row.Text
                })), "text/csv", "chat.csv"),
                "json" => Results.File(JsonSerializer.SerializeToUtf8Bytes(chat, CoreJson.Options), "application/json", "chat.json"),
                _ => Problems.Of("noSuchAddress", 404)
            }, isStranger: !SeatCookies.IsAccount(person));
        });
        sitting.MapGet("/ledger.{format}",
            async (Guid id, string format, HttpContext http, SeatCookies cookies, IGrainFactory grains, EntryReader reader,
            HeavyWork heavy) =>
        {
            if (cookies.Read(http, id) is not { } person || await grains.In<ISittingLedger>(id).Export(person) is not { } ledger)
                return Problems.Of("noSuchSitting", 404);
            return await heavy.Run(Lane.Slow, person.Value, async () =>
            {
                var digests = (await reader.Read(id))
                    .ToDictionary(entry => entry.Sequence, entry => Convert.ToHexStringLower(entry.Digest));
                string DigestOf(LedgerRow row) => digests.GetValueOrDefault(row.Sequence, "");
                return format switch
                {
                    "jsonl" => Results.File(
                        _utf8.GetBytes(string.Concat(ledger.Rows.Select(row =>
                        JsonSerializer.Serialize(new { entry = row, digest = DigestOf(row) }, CoreJson.Options) + "\n"))),
                        "application/jsonl", "ledger.jsonl"),
                    "csv" => Results.File(Csv.Write(["sequence", "time", "by", "what", "count", "people", "detail", "takes back", "digest"],
                        ledger.Rows.Select(row => new[]
                    {
                        row.Sequence.ToString(CultureInfo.InvariantCulture), TimeOf(row.At), row.By
                            ?? "the house", row.What, row.Count.ToString(CultureInfo.InvariantCulture),
                        string.Join("; ", row.Names), row.Detail ?? "", row.Undone?.What ?? "", DigestOf(row)
                    })), "text/csv", "ledger.csv"),
                    _ => Problems.Of("noSuchAddress", 404)
                };
            }, isStranger: !SeatCookies.IsAccount(person));
        });
        sitting.MapGet("/polls.{format}", async (Guid id, string format, HttpContext http, SeatCookies cookies, IGrainFactory grains) =>
        {
            if (cookies.Read(http, id) is not { } person || await grains.In<ISittingPolls>(id).Export(person) is not { } polls)
                return Problems.Of("noSuchSitting", 404);
            return format switch
            {
                "csv" => Results.File(PollTable.Of(polls), "text/csv", "polls.csv"),
                "json" => Results.File(JsonSerializer.SerializeToUtf8Bytes(polls, CoreJson.Options), "application/json", "polls.json"),
                _ => Problems.Of("noSuchAddress", 404)
            };
        });
        sitting.MapGet("/ledger/check", async (Guid id, HttpContext http, SeatCookies cookies, IGrainFactory grains, EntryReader reader,
            HeavyWork heavy) =>
        {
            if (cookies.Read(http, id) is not { } person || !await grains.In<ISittingLedger>(id).IsReadBy(person))
                return Problems.Of("noSuchSitting", 404);
            return Results.Ok(await heavy.Run(Lane.Slow, person.Value, async () =>
            {
                var entries = await reader.Read(id);
                return new LedgerCheckRow(entries.Count, Chain.FirstBreak(entries), entries is [.., var last]
                    ? Convert.ToHexStringLower(last.Digest)
                    : "");
            }, isStranger: !SeatCookies.IsAccount(person)));
        });
    }

    /// <summary>Much is read for each of these, so one person may not ask for them without end.</summary>
    internal static async ValueTask<object?> TakesInTurn(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var (http, id) = (context.HttpContext, context.GetArgument<Guid>(0));
        return http.RequestServices.GetRequiredService<SeatCookies>().Read(http, id) is { } person
            && !http.RequestServices.GetRequiredService<SeatLimits>().File(id, person)
                ? Problems.Of("tooMany", 429)
                : await next(context);
    }

    /// <summary>For reading: in the reader's language, with the times of the reader's zone.</summary>
    private static string TextOf(ChatExport chat, ServerTexts texts, TimeZoneInfo zone)
    {
        string Local(Instant at, string pattern) => PlanTimes.Local(at, zone).ToString(pattern, CultureInfo.InvariantCulture);
        var text = new StringBuilder(texts.Say("chat.head", chat.Title, zone.Id)).Append('\n')
            .Append(texts.DateAndTime(PlanTimes.Local(chat.OpenedAt, zone))).Append("\n\n");
        foreach (var row in chat.Rows)
        {
            var to = row.To.Reach switch
            {
                Reach.Everyone => texts["chat.everyone"],
                Reach.Bench => texts["chat.bench"],
                _ =>
                row.ToName ?? ""
            };
            text.Append(texts.Say(row.Question == Question.None ? "chat.line" : "chat.question", Local(row.At, "HH:mm:ss"), row.Name
                ?? texts["chat.somebody"], to, row.Text)).Append('\n');
        }
        return text.ToString();
    }

    private static string ToOf(MessageRow row) =>
        row.To.Reach switch { Reach.Everyone => "everyone", Reach.Bench => "the bench", _ => row.ToName ?? "" };

    private static string TimeOf(Instant at) =>
        DateTimeOffset.FromUnixTimeMilliseconds(at.Milliseconds).ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture);
}
