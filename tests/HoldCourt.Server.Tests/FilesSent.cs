using System.Net;
using System.Text;
using HoldCourt.Server.Api;
using SkiaSharp;

namespace HoldCourt.Server.Tests;

/// <summary>Files as browsers send them, by tus 1.0.0.</summary>
internal static class FilesSent
{
    public static byte[] Pdf(params string[] pages)
    {
        using var to = new MemoryStream();
        using (var document = SKDocument.CreatePdf(to))
        {
            using var font = new SKFont { Size = 40 };
            using var paint = new SKPaint { Color = SKColors.Black };
            foreach (var text in pages)
            {
                document.BeginPage(1280, 720).DrawText(text, 100, 200, font, paint);
                document.EndPage();
            }
        }
        return to.ToArray();
    }

    public static string Files(OpenedSitting opened) => $"/api/sittings/{opened.Sitting}/files";

    private static string Coded(string value) => Convert.ToBase64String(Encoding.UTF8.GetBytes(value));

    public static async Task<HttpResponseMessage> Announce(Visitor who, OpenedSitting opened, string name, long size,
        string use = "shelf") =>
        await who.SendFile(HttpMethod.Post, Files(opened), null, ("Upload-Length", $"{size}"), ("Upload-Metadata",
            $"filename {Coded(name)},for {Coded(use)}"));

    public static Task<HttpResponseMessage> Piece(Visitor who, string address, byte[] bytes, long from) =>
        who.SendFile(HttpMethod.Patch, address, bytes, ("Upload-Offset", $"{from}"));

    public static async Task<Guid> Send(Visitor who, OpenedSitting opened, string name, byte[] bytes, string use = "shelf")
    {
        var room = await Announce(who, opened, name, bytes.Length, use);
        room.StatusCode.ShouldBe(HttpStatusCode.Created, await room.Content.ReadAsStringAsync());
        var address = room.Headers.Location!.ToString();
        (await Piece(who, address, bytes, 0)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        return Guid.Parse(address[(address.LastIndexOf('/') + 1)..]);
    }
}
