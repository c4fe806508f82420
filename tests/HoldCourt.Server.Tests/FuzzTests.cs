using System.Diagnostics;
using System.Net.WebSockets;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using HoldCourt.Server.Api;
using HoldCourt.Server.CommandLine;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Media;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Workload;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.Routing;
using Microsoft.AspNetCore.Routing.Patterns;
using Microsoft.Extensions.DependencyInjection;
using SkiaSharp;
using Xunit.Abstractions;

namespace HoldCourt.Server.Tests;

/// <summary>
/// Each way in is given what nobody would send by hand, made at random from a fixed seed. Nothing may end by an unexpected error, nothing
/// that runs beside may fail, and another sitting's wishes are done meanwhile. <c>HOLD_COURT_FUZZ_SECONDS</c> makes each longer, and
/// <c>HOLD_COURT_FUZZ_SEED</c> another.
/// </summary>
public sealed class FuzzTests(ITestOutputHelper output) : IAsyncLifetime
{
    private static readonly TimeSpan _each = TimeSpan.FromSeconds(
        int.TryParse(Environment.GetEnvironmentVariable("HOLD_COURT_FUZZ_SECONDS"), out var seconds) ? seconds : 20);

    private readonly Random _random = new(
        int.TryParse(Environment.GetEnvironmentVariable("HOLD_COURT_FUZZ_SEED"), out var seed) ? seed : 20_261_201);

    private Court _court = null!;

    public async Task InitializeAsync() => _court = await Court.With("--Demo:Load", "true");

    public async Task DisposeAsync()
    {
        var failed = _court.Services.GetRequiredService<Supervisor>().Failed;
        await _court.DisposeAsync();
        failed.ShouldBeEmpty("what runs beside goes on");
    }

    private async Task For(Func<Task> one)
    {
        var (clock, count) = (Stopwatch.StartNew(), 0);
        for (; clock.Elapsed < _each; count++) await one();
        output.WriteLine($"{count} tries");
        count.ShouldBeGreaterThan(10);
    }

    private T Pick<T>(params T[] of) => of[_random.Next(of.Length)];

    private static readonly string[] _words =
    [
        "", "x", "Nia Okafor", "\u0000", "\u202eabc", "\ud83c\udf0a", "=1+1", "'; DROP TABLE Entries; --", "../../etc/passwd", "null", "-1",
        "2026-02-30T25:61", "a@b", new('ż', 300), new('x', 70_000), "\r\n\r\n", "{{count}}", "<script>"
    ];

    private JsonNode? Value(int depth = 0) => _random.Next(depth > 2 ? 7 : 9) switch
    {
        0 => null,
        1 => Pick(0, 1, -1, 2, 7, int.MaxValue, int.MinValue),
        2 => Pick(long.MaxValue, long.MinValue, 1_800_000_000_000),
        3 => Pick(0.5, -1e308, 1e-300),
        4 => Pick(true, false),
        5 or 6 => Pick(_words),
        7 => new JsonArray([.. Enumerable.Range(0, _random.Next(4)).Select(_ => Value(depth + 1))]),
        _ => new JsonObject(Enumerable.Range(0, _random.Next(4))
            .Select(n => KeyValuePair.Create(Pick("name", "seat", "id", "text", "do") + n, Value(depth + 1))))
    };

    /// <summary>A body of the kind that is meant, with some of its parts as they might be, and some as nobody would write them.</summary>
    private JsonNode? Body(Type type, int depth = 0)
    {
        var plain = Nullable.GetUnderlyingType(type) ?? type;
        if (_random.Next(6) == 0) return Value();
        if (plain == typeof(string)) return Pick(_words);
        if (plain == typeof(bool)) return _random.Next(2) == 0;
        if (plain.IsEnum) return Pick(Enum.GetNames(plain).Select(CoreName).Append("odd").ToArray());
        if (plain.IsPrimitive) return Pick(0, 1, 2, 3, -1, 60, int.MaxValue);
        if (plain == typeof(Guid)) return Guid.NewGuid().ToString();
        if (plain == typeof(SeatId)) return Pick(0, 1, 2, 3, 99);
        if (plain == typeof(Instant)) return Pick(0, 1_800_000_000_000, long.MaxValue);
        if (depth > 3) return Value();
        if (ElementOf(plain) is { } element)
            return new JsonArray([.. Enumerable.Range(0, _random.Next(4)).Select(_ => Body(element, depth + 1))]);
        var made = new JsonObject();
        if (plain.GetConstructors().OrderByDescending(one => one.GetParameters().Length).FirstOrDefault() is not { } how) return Value();
        foreach (var part in how.GetParameters())
            if (_random.Next(8) != 0) made[JsonNamingPolicy.CamelCase.ConvertName(part.Name!)] = Body(part.ParameterType, depth + 1);
        return made;
    }

    private static string CoreName(string name) => JsonNamingPolicy.CamelCase.ConvertName(name);

    private static Type? ElementOf(Type type) => type.IsArray
        ? type.GetElementType()
        : type.GetInterfaces().Append(type).FirstOrDefault(one => one.IsGenericType
            && one.GetGenericTypeDefinition() == typeof(IEnumerable<>) && type != typeof(string))?.GetGenericArguments()[0];

    private byte[] Spoilt(byte[] whole)
    {
        var bytes = whole.ToList();
        for (var n = _random.Next(1, 8); n > 0 && bytes.Count > 0; n--)
        {
            var at = _random.Next(bytes.Count);
            switch (_random.Next(5))
            {
                case 0: bytes[at] = (byte)_random.Next(256); break;
                case 1: bytes.RemoveRange(at, Math.Min(_random.Next(1, 40), bytes.Count - at)); break;
                case 2: bytes.InsertRange(at, bytes.GetRange(at, Math.Min(_random.Next(1, 60), bytes.Count - at))); break;
                case 3: bytes.InsertRange(at, Encoding.UTF8.GetBytes(Pick(_words[..12]))); break;
                default: bytes[at] ^= (byte)(1 << _random.Next(8)); break;
            }
        }
        return [.. bytes];
    }

    [Fact]
    public async Task Bodies_over_HTTP()
    {
        using var host = await _court.Host();
        using var nobody = _court.Visitor();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Fuzzed"));
        await using var bench = await host.Announces(opened, "Odalys");
        var kept = await host.Post<KeptPlan>("/api/plans", Made.Planned("Fuzzed plan"));
        var ways = _court.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
            .SelectMany(endpoint => (endpoint.Metadata.GetMetadata<HttpMethodMetadata>()?.HttpMethods ?? [])
                .Select(method => (Method: method, Endpoint: endpoint,
                    Type: endpoint.Metadata.GetMetadata<IAcceptsMetadata>()?.RequestType)))
            .Where(way => way.Type is not null && way.Endpoint.RoutePattern.RawText!.TrimStart('/') is var path
                && path.StartsWith("api", StringComparison.Ordinal) && !path.Contains("account", StringComparison.Ordinal)
                && !path.Contains("hosts", StringComparison.Ordinal)).ToList();
        ways.Count.ShouldBeGreaterThan(30);
        var tokens = new[] { (await host.Get<Me>("/api/me")).Token, (await nobody.Get<Me>("/api/me")).Token };
        await For(async () =>
        {
            var (method, endpoint, type) = ways[_random.Next(ways.Count)];
            var path = "/" + string.Join('/', endpoint.RoutePattern.PathSegments.Select(segment =>
                string.Concat(segment.Parts.Select(part => part switch
                {
                    RoutePatternParameterPart { Name: "link" } => opened.Link,
                    RoutePatternParameterPart { Name: "id" } => Pick(kept.Id, opened.Sitting).ToString(),
                    RoutePatternLiteralPart literal => literal.Content,
                    _ => Pick("1", "2", Guid.NewGuid().ToString())
                }))));
            var (who, token) = _random.Next(3) > 0 ? (host, tokens[0]) : (nobody, tokens[1]);
            var body = Body(type!)?.ToJsonString() ?? "null";
            if (_random.Next(5) == 0) body = Encoding.UTF8.GetString(Spoilt(Encoding.UTF8.GetBytes(body)));
            using var answer = await who.SendRaw(new HttpMethod(method), path, body, token);
            ((int)answer.StatusCode).ShouldBeLessThan(500, $"{method} {path} {body[..Math.Min(body.Length, 300)]}");
        });
        await bench.Done(new SendNotice("still here"));
    }

    [Fact]
    public async Task Wishes_over_the_live_line()
    {
        using var host = await _court.Host();
        var (fuzzed, quiet) = (await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Fuzzed")), await host.Post<OpenedSitting>(
            "/api/sessions", new OpenNow("Quiet")));
        await using var bench = await host.Announces(fuzzed, "Odalys");
        await bench.Done(new SetDoor(DoorMode.Open));
        await using var other = await host.Announces(quiet, "Odalys");
        using var visitor = _court.Visitor();
        await using var guest = await visitor.Announces(fuzzed, "Nia");
        var kinds = typeof(SeatCommand).Assembly.GetTypes().Where(type => type.IsSubclassOf(typeof(SeatCommand)) && !type.IsAbstract
            && type != typeof(Adjourn) && type != typeof(Leave) && type != typeof(HandOver)).ToList();
        kinds.Count.ShouldBeGreaterThan(90);
        await For(async () =>
        {
            var kind = kinds[_random.Next(kinds.Count)];
            var wish = Body(kind) as JsonObject ?? [];
            wish["do"] = _random.Next(30) == 0 ? Pick(_words) : CoreName(kind.Name);
            foreach (var live in new[] { bench, guest })
                await live.Send(JsonSerializer.SerializeToElement(wish),
                    _random.Next(4) == 0 ? Pick("a", "b", new string('x', 500)) : null);
            if (_random.Next(20) == 0)
                await bench.Ask<ReadingRow?>("Read", Pick(_words), Array.Empty<NamedPreset>(), Pick("en", "pl", "xx"));
            // A hand makes no more: beyond it each is refused unread.
            await Task.Delay(30);
        });
        await other.Done(new SendNotice("nothing of it is ours"));
    }

    [Fact]
    public async Task Frames_and_descriptions_over_the_media_socket()
    {
        using var host = await _court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Fuzzed"));
        await using var bench = await host.Announces(opened, "Odalys");
        await bench.Done(new SetDoor(DoorMode.Open));
        using var visitor = _court.Visitor();
        await using var guest = await visitor.Announces(opened, "Nia");
        await guest.Done(new OpenMicrophone());
        await guest.Done(new TurnCamera(true));
        using var hears = await bench.Media();
        var media = await guest.Media();
        var clip = RecordedRoom.Clip;
        await For(async () =>
        {
            if (media.Closed is not null)
            {
                media.Dispose();
                await Task.Delay(1_000);
                media = await guest.Media();
            }
            try
            {
                switch (_random.Next(5))
                {
                    case 0: await media.SendRaw(Spoilt(clip.Frames[_random.Next(20)])); break;
                    case 1: await media.Send(Pick(Kind.Full, Kind.Thumb), _random.Next(70_000), Spoilt(clip.Frames[0]), key: true); break;
                    case 2: await media.Send(Kind.Audio, media.Own.Audio, Spoilt([1, 2, 3, 4, 5, 6, 7, 8])); break;
                    case 3: await media.Say((Value() ?? "null").ToJsonString()); break;
                    default:
                        await media.Say(Encoding.UTF8.GetString(Spoilt(
                            JsonSerializer.SerializeToUtf8Bytes<FromBrowser>(new Describe(Media.Tracks), CoreJson.Options))));
                        break;
                }
            }
            catch (Exception e) when (e is WebSocketException or InvalidOperationException) { /* It was cut off. */ }
            await Task.Delay(15);
        });
        media.Dispose();
        await Task.Delay(1_500);
        using var again = await guest.Media();
        var before = hears.Frames(Kind.Audio);
        await Eventually.Succeeds(async () =>
        {
            await again.Speak();
            hears.Frames(Kind.Audio).ShouldBeGreaterThan(before, "voices go on");
        });
    }

    /// <summary>What is read beside, and whole: none of it may throw anything but what says that it is broken.</summary>
    [Fact]
    public async Task Tables_cards_recordings_and_pictures()
    {
        var csv = Encoding.UTF8.GetBytes(
            "name,email,phone,groups\nNia Okafor,nia@larkmoor.example.org,+44 1,wardens\n\"Quill, T\",,,\"a;b\"\n");
        var cards = Encoding.UTF8.GetBytes("BEGIN:VCARD\r\nVERSION:3.0\r\nFN;CHARSET=ISO-8859-1;ENCODING=QUOTED-PRINTABLE:Zo=EB\r\n"
            + "EMAIL;TYPE=work:zoe@larkmoor.example.org\r\nCATEGORIES:a,b\\,c\r\nEND:VCARD\r\n");
        var rooms = Encoding.UTF8.GetBytes("room,person,lead,task,document\nWeir,Nia,yes,Count,Map\nWeir,Teodor,,,\nFord,,,,\n");
        var folder = Directory.CreateTempSubdirectory("hold-court-fuzz-").FullName;
        var path = Path.Combine(folder, "track.webm");
        using (var writer = new WebmWriter(path, [WebmTrack.Picture("V_VP8", 320, 180)]))
        {
            for (var n = 0; n < 30; n++) writer.Write(1, n * 50, RecordedRoom.Clip.Frames[n], n == 0);
            writer.Finish();
        }
        var webm = await File.ReadAllBytesAsync(path);
        var day = new DateOnly(2026, 12, 1);
        await For(async () =>
        {
            var clock = Stopwatch.StartNew();
            _ = ContactTable.Import(Spoilt(_random.Next(2) == 0 ? csv : cards), []);
            _ = DocketTable.ReadFile(Spoilt(csv), day, TimeZoneInfo.Utc);
            _ = DocketTable.ReadText(Encoding.UTF8.GetString(Spoilt(csv)), day, TimeZoneInfo.Utc);
            _ = RoomTable.Read(Spoilt(rooms));
            await File.WriteAllBytesAsync(path, Spoilt(webm));
            try
            {
                WebmReader.Repair(path);
                using var reader = new WebmReader(path);
                foreach (var block in reader.Blocks().Take(10_000)) _ = block;
                _ = reader.Chapters();
            }
            catch (Exception e) when (e is IOException or InvalidDataException) { /* It says that it is none. */ }
            clock.Elapsed.ShouldBeLessThan(TimeSpan.FromSeconds(5));
        });
        Directory.Delete(folder, recursive: true);
    }

    /// <summary>Each is read in the sandbox, and ends in pages or in a flaw, in its time.</summary>
    [Fact]
    public async Task Documents_and_pictures()
    {
        (string, byte[])[] seeds =
        [
            ("map.pdf", FilesSent.Pdf("The upper reach", "The lower reach")),
            ("map.png", Drawn(SKEncodedImageFormat.Png)), ("map.jpg", Drawn(SKEncodedImageFormat.Jpeg))
        ];
        var folder = Directory.CreateTempSubdirectory("hold-court-fuzz-").FullName;
        var made = 0;
        await For(async () =>
        {
            var (name, whole) = Pick(seeds);
            var path = Path.Combine(folder, name);
            await File.WriteAllBytesAsync(path, Spoilt(whole));
            var clock = Stopwatch.StartNew();
            try
            {
                if (FileKind.Of(path, name).Shows is not { } kind) return;
                if (kind == ExhibitKind.Picture) await PageMaker.Picture(path, 1_600, CancellationToken.None);
                else
                {
                    await PageMaker.Look(path, CancellationToken.None);
                    await PageMaker.Page(path, 1, 160, CancellationToken.None);
                    await PageMaker.Text(path, 1, CancellationToken.None);
                }
                made++;
            }
            catch (PageException) { /* It says what is wrong with it. */ }
            clock.Elapsed.ShouldBeLessThan(TimeSpan.FromSeconds(60));
        });
        made.ShouldBePositive();
        Directory.Delete(folder, recursive: true);
    }

    private static byte[] Drawn(SKEncodedImageFormat format)
    {
        using var bitmap = new SKBitmap(160, 100);
        for (var y = 0; y < bitmap.Height; y++)
            for (var x = 0; x < bitmap.Width; x++) bitmap.SetPixel(x, y, new SKColor((byte)x, (byte)(y * x), (byte)y));
        using var data = bitmap.Encode(format, 80);
        return data.ToArray();
    }

    [Fact]
    public async Task Agents_and_files_in_pieces()
    {
        using var host = await _court.Host();
        var opened = await host.Post<OpenedSitting>("/api/sessions", new OpenNow("Fuzzed"));
        await using var bench = await host.Announces(opened, "Odalys");
        var files = $"/api/sittings/{opened.Sitting}/files";
        await For(async () =>
        {
            using var made = await host.SendFile(HttpMethod.Post, files, null,
                ("Upload-Length", Pick("10", "-1", "0", "99999999999999", "x", "1e3")), ("Tus-Resumable", Pick("1.0.0", "7")),
                ("Upload-Metadata", Pick("filename aGVyb24udHh0", "filename !!", "filename", "for aGFuZG91dA==,filename Li4vLi4v",
                    $"filename {new string('A', 5_000)}")));
            ((int)made.StatusCode).ShouldBeLessThan(600);
            ((int)made.StatusCode).ShouldNotBe(500);
            var to = made.Headers.Location?.ToString() ?? $"{files}/{Guid.NewGuid()}";
            using var piece = await host.SendFile(HttpMethod.Patch, to, Spoilt("twenty bytes of text"u8.ToArray()),
                ("Upload-Offset", Pick("0", "5", "-3", "x")), ("Tus-Resumable", "1.0.0"));
            ((int)piece.StatusCode).ShouldNotBe(500);
            using var agent = new ClientWebSocket();
            try
            {
                var code = Uri.EscapeDataString(Pick(_words[..9]));
                await agent.ConnectAsync(new Uri($"ws://{_court.Address.Authority}/agent?code={code}"), default);
                await agent.SendAsync(
                    Encoding.UTF8.GetBytes((Value() ?? "null").ToJsonString()), WebSocketMessageType.Text, true, default);
            }
            catch (WebSocketException) { /* It is let in by nobody. */ }
            await Task.Delay(120);
        });
        await bench.Done(new SendNotice("still here"));
    }
}
