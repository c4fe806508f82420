using System.Net;
using System.Text.RegularExpressions;
using HoldCourt.Server.Api;
using HoldCourt.Server.Planning;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;
using static HoldCourt.Server.Tests.Made;

namespace HoldCourt.Server.Tests;

/// <summary>What holds for every address that the server has, those of tomorrow included.</summary>
public sealed partial class EveryAddressTests : IAsyncLifetime
{
    private Court _court = null!;

    /// <summary>This machine is a proxy, so that each request can come from an
    /// address of its own and none is turned away for its number.</summary>
    public async Task InitializeAsync() =>
        _court = await Court.With("--Demo:Load", "true", "--Demo:Everywhere", "true", "--Proxy:Known", "127.0.0.1");

    public Task DisposeAsync() => _court.DisposeAsync();

    /// <summary>What somebody without an account may ask for; whoever adds to this list has thought about it.</summary>
    private static readonly string[] _forAll =
    [
        "GET /api/me", "POST /api/sign-in", "POST /api/sign-in/code", "POST /api/sign-in/passkey", "POST /api/sign-in/passkey/options",
        "POST /api/sign-out", "POST /api/set-up", "POST /api/forgot", "POST /api/reset",
        "POST /api/confirm", "POST /api/join", "POST /api/join/look", "POST /api/password-strength", "GET /api/door/{link}",
        "GET /api/door/{link}/stream", "POST /api/door/{link}/invitation", "POST /api/door/{link}/announce", "GET /api/door/{link}/papers",
        "GET /api/door/{link}/papers/{paper}", "POST /api/door/{link}/call-in", "POST /api/answer/look", "POST /api/answer",
        "GET /api/sittings/{id}/chat.{format}", "GET /api/sittings/{id}/ledger.{format}",
        "GET /api/sittings/{id}/rooms.csv", "GET /api/sittings/{id}/rounds.{format}", "POST /api/sittings/{id}/rooms/read",
        "GET /api/sittings/{id}/polls.{format}", "GET /api/sittings/{id}/ledger/check",
        "POST /api/sittings/{id}/files", "HEAD /api/sittings/{id}/files/{file}", "PATCH /api/sittings/{id}/files/{file}",
        "DELETE /api/sittings/{id}/files/{file}", "POST /api/sittings/{id}/exhibits",
        "GET /api/sittings/{id}/exhibits/{number}/pages/{page}/{width}", "GET /api/sittings/{id}/exhibits/{number}/pages.pdf",
        "GET /api/sittings/{id}/exhibits/{number}/marks", "POST /api/sittings/{id}/handouts", "POST /api/sittings/{id}/agent",
        "GET /api/sittings/{id}/handouts/{number}/file", "GET /api/sittings/{id}/handouts/{number}/print",
        "GET /api/sittings/{id}/handouts/{number}/print/{page}", "GET /api/recordings/{id}", "POST /api/shared", "POST /api/page-failures",
        "GET /api/sittings/{id}/recordings", "GET /api/door/{link}/recordings",
        "GET /api/recordings/{id}/films/{film}/{file}", "GET /api/recordings/{id}/films/{film}/chapters.vtt",
        "GET /api/recordings/{id}/films/{film}/transcript", "GET /api/recordings/{id}/films/{film}/captions.vtt",
        "GET /api/recordings/{id}/films/{film}/transcript.txt", "GET /api/recordings/{id}/papers",
        "GET /api/recordings/{id}/papers/{paper}", "GET /api/recordings/{id}/films/{film}/captioned.webm"
    ];

    [GeneratedRegex(@"\{\**(\w+):?(\w*)[^}]*\}")]
    private static partial Regex Parameter();

    private static string NameOf((string Method, string Pattern) one) => $"{one.Method} {Parameter().Replace(one.Pattern, "{$1}")}";

    private IEnumerable<(string Method, string Pattern)> All() =>
        _court.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
        .SelectMany(endpoint => (endpoint.Metadata.GetMetadata<HttpMethodMetadata>()?.HttpMethods ?? [])
            .Select(method => (method, "/" + endpoint.RoutePattern.RawText!.Trim('/'))))
        .Where(pair => pair.Item2.StartsWith("/api", StringComparison.Ordinal)).Distinct();

    private static string Filled(string pattern) =>
        Parameter().Replace(pattern, match => (match.Groups[2].Value, match.Groups[1].Value) switch
    {
        ("guid", _) => Guid.NewGuid().ToString(),
        ("long" or "int", _) => "1",
        (_, "link" or "token") => new string('x', 22),
        (_, "format") => "txt",
        _ => "x"
    });

    [Fact]
    public async Task Nobody_gets_anything_but_what_is_for_all()
    {
        using var nobody = _court.Visitor();
        var all = All().ToList();
        all.Count.ShouldBeGreaterThan(80);
        _forAll.Except(all.Select(NameOf)).ShouldBeEmpty("they exist");
        foreach (var (method, pattern) in all.Where(pair => !_forAll.Contains(NameOf(pair))))
        {
            using var answer = await nobody.Send(new HttpMethod(method), Filled(pattern));
            answer.StatusCode.ShouldBe(HttpStatusCode.Unauthorized, $"{method} {pattern}");
            (await Visitor.ReasonOf(answer)).ShouldBe("signInNeeded");
        }
    }

    [Fact]
    public async Task Another_host_neither_reads_nor_changes_what_is_somebody_elses()
    {
        using var host = await _court.Host();
        using var other = await _court.AnotherHost();
        var kept = await host.Post<KeptPlan>("/api/plans", Planned("Quokka secrets"));
        var sheet = await host.Put<DocketPage>($"/api/plans/{kept.Id}/docket",
            new[] { Line("Quokka Guest", "quokka@larkmoor.example.org") });
        await host.Does(HttpMethod.Post, $"/api/plans/{kept.Id}/invite", new InviteWish([sheet.Lines[0].Id!.Value]));
        await host.Does(HttpMethod.Post, $"/api/plans/{kept.Id}/papers/quokka.txt", "quokka words"u8.ToArray());
        async Task<string> Whole()
        {
            var parts = new List<string>();
            foreach (var path in new[] { $"plans/{kept.Id}", $"plans/{kept.Id}/docket", $"plans/{kept.Id}/papers",
                $"plans/{kept.Id}/owners", "sessions", "outbox", "contacts", "presets" })
                parts.Add(await (await host.Get($"/api/{path}")).Content.ReadAsStringAsync());
            return string.Join('\n', parts);
        }
        var before = await Whole();
        before.ShouldContain("Quokka secrets");
        var (me, mine) = ((await other.Get<Me>("/api/me")).Id, await other.Post<KeptPlan>("/api/plans", Planned("My own")));
        var bodies = new[] { "{}", System.Text.Json.JsonSerializer.Serialize(mine.Plan, CoreJson.Options),
            System.Text.Json.JsonSerializer.Serialize(sheet.Lines, CoreJson.Options),
            $"{{\"lines\":[{sheet.Lines[0].Id}],\"account\":\"{me}\",\"text\":\"x\"}}" };
        var token = (await other.Get<Me>("/api/me")).Token;
        foreach (var (method, pattern) in All()
            .Where(pair => pair.Pattern.StartsWith("/api/plans/{id", StringComparison.Ordinal)
            || pair.Pattern.StartsWith("/api/sessions/{id", StringComparison.Ordinal)
            || pair.Pattern.StartsWith("/api/outbox/{id", StringComparison.Ordinal)))
            foreach (var body in method is "GET" ? [""] : bodies)
                for (var number = 1; number < 6; number++)
                {
                    var path = Filled(pattern.Replace("{id:guid}", kept.Id.ToString(), StringComparison.Ordinal)
                        .Replace("{account}", me, StringComparison.Ordinal)).Replace("/1", $"/{number}", StringComparison.Ordinal);
                    using var answer = method is "GET"
                        ? await other.Get(path)
                        : await other.SendRaw(new HttpMethod(method), path, body, token);
                    answer.IsSuccessStatusCode.ShouldBeFalse($"{method} {path} with {body}");
                    (await answer.Content.ReadAsStringAsync()).ShouldNotContain("quokka", Case.Insensitive);
                }
        (await Whole()).ShouldBe(before);
    }

    [Fact]
    public async Task An_odd_body_is_refused_in_words_wherever_it_is_sent()
    {
        using var host = await _court.Host();
        using var nobody = _court.Visitor();
        string[] odd =
        [
            "", "null", "[]", "7", "\"x\"", "{", "{}", "[null]", "{\"name\":7,\"email\":[],\"password\":{}}",
            "{\"lines\":null,\"code\":null,\"name\":null,\"email\":null,\"token\":null}",
            $"{{\"name\":\"{new string('x', 200_000)}\",\"email\":\"{new string('x', 200_000)}\","
                + $"\"password\":\"{new string('x', 200_000)}\",\"credential\":\"{new string('x', 200_000)}\","
                + $"\"account\":\"{new string('x', 200_000)}\",\"token\":\"x\"}}",
            "{\"name\":\"\\u0000\\u202e\",\"email\":\"\\u0000@\\u0000.x\",\"password\":\"\\u0000\\ud800\"}",
            string.Concat(Enumerable.Repeat("{\"a\":", 100)) + "1" + new string('}', 100)
        ];
        foreach (var (method, pattern) in All().Where(pair => pair.Method is not ("GET" or "HEAD") && pair.Pattern != "/api/sign-out"))
            foreach (var visitor in new[] { host, nobody })
            {
                var token = (await visitor.Get<Me>("/api/me")).Token;
                foreach (var body in odd)
                {
                    using var answer = await visitor.SendRaw(new HttpMethod(method), Filled(pattern), body, token);
                    ((int)answer.StatusCode).ShouldBeLessThan(500, $"{method} {pattern} with {body[..Math.Min(body.Length, 40)]}");
                    if (!answer.IsSuccessStatusCode) (await Visitor.ReasonOf(answer)).ShouldNotBeNullOrEmpty();
                }
            }
        (await host.Get<Me>("/api/me")).Email.ShouldNotBeNull();
    }
}
