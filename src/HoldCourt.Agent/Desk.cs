using System.Text;
using System.Text.Json;

namespace HoldCourt.Agent;

/// <summary>A made-up desk that fills a screen, to try lending with: it shows what is pressed and typed, and says it in lines.</summary>
internal static class Desk
{
    private static readonly (string Name, int X)[] _gates =
        [("Open the weir gate", 60), ("Close the weir gate", 300), ("Read the gauge", 540)];

    private const int Top = 90, Width = 220, Height = 44;

    /// <exception cref="InvalidOperationException">There is no such screen.</exception>
    public static void Run(string? name, TextWriter says, CancellationToken cancel)
    {
        var display = X11.XOpenDisplay(name);
        if (display == 0) throw new InvalidOperationException($"The screen {name ?? "(DISPLAY)"} cannot be opened.");
        var (screen, root) = (X11.XDefaultScreen(display), X11.XDefaultRootWindow(display));
        var (width, height) = ((uint)X11.XDisplayWidth(display, screen), (uint)X11.XDisplayHeight(display, screen));
        var window = X11.XCreateSimpleWindow(display, root, 0, 0, width, height, 0, 0, 0xF5F2EA);
        _ = X11.XSelectInput(display, window, X11.KeyPressMask | X11.ButtonPressMask | X11.ExposureMask);
        _ = X11.XMapRaised(display, window);
        var context = X11.XCreateGC(display, window, 0, 0);
        _ = X11.XSync(display, 0);
        _ = X11.XSetInputFocus(display, window, 1, 0);
        var (typed, pressed, level) = (new StringBuilder(), "", 40);
        var clicks = new List<(int X, int Y)>();
        void Text(int x, int y, string words)
        {
            _ = X11.XSetForeground(display, context, 0x22443F);
            var bytes = Encoding.Latin1.GetBytes(words);
            _ = X11.XDrawString(display, window, context, x, y, bytes, bytes.Length);
        }
        void Box(nuint colour, int x, int y, int wide, int high)
        {
            _ = X11.XSetForeground(display, context, colour);
            _ = X11.XFillRectangle(display, window, context, x, y, (uint)wide, (uint)high);
        }
        void Draw()
        {
            _ = X11.XClearWindow(display, window);
            Text(60, 50, "Sallow Bend, the gauge desk (made up)");
            foreach (var (gate, x) in _gates)
            {
                Box(0xCFE3DC, x, Top, Width, Height);
                Text(x + 14, Top + 27, gate);
            }
            Box(0x7AA7B5, 60, 420 - level, 700, level);
            Text(60, 440, pressed.Length > 0 ? pressed : "Nothing was pressed yet.");
            Text(60, 480, $"Typed: {typed}_");
            foreach (var (x, y) in clicks) Box(0xB0472F, x - 4, y - 4, 8, 8);
            _ = X11.XFlush(display);
        }
        says.WriteLine("""{"is":"ready"}""");
        while (!cancel.IsCancellationRequested)
        {
            if (X11.XPending(display) == 0)
            {
                cancel.WaitHandle.WaitOne(10);
                continue;
            }
            _ = X11.XNextEvent(display, out var happened);
            switch (happened.Kind)
            {
                case X11.ButtonPress:
                    clicks.Add((happened.X, happened.Y));
                    if (clicks.Count > 40) clicks.RemoveAt(0);
                    var gate = Array.FindIndex(_gates, one => happened.Y is >= Top and < Top + Height
                        && happened.X >= one.X && happened.X < one.X + Width);
                    if (gate >= 0) pressed = _gates[gate].Name;
                    level = Math.Clamp(level + (gate switch { 0 => 30, 1 => -30, _ => 0 }), 10, 240);
                    Say(says, new
                    {
                        @is = "press",
                        x = happened.X,
                        y = happened.Y,
                        button = happened.Code,
                        on = gate < 0 ? "" : pressed
                    });
                    break;
                case X11.KeyPress:
                    var text = new byte[16];
                    var count = X11.XLookupString(happened, text, text.Length, out var keysym, 0);
                    if (X11.NameOf(keysym) == "BackSpace" && typed.Length > 0) typed.Length--;
                    else if (count == 1 && text[0] >= 32) typed.Append((char)text[0]);
                    Say(says, new { @is = "key", name = X11.NameOf(keysym), typed = typed.ToString() });
                    break;
            }
            Draw();
        }
        _ = X11.XCloseDisplay(display);
    }

    private static void Say<T>(TextWriter says, T what) => says.WriteLine(JsonSerializer.Serialize(what));
}
