using System.Text;

namespace HoldCourt.Agent;

/// <summary>
/// A whole X screen: moves and presses on it (XTEST), knows when somebody sits there and does so, and says on it who drives. Used by one
/// thread.
/// </summary>
internal sealed class Screen : IDisposable
{
    /// <summary>A pointer that lies further than this from where it was put, in pixels, was moved by somebody.</summary>
    private const int Still = 2;

    private const int BannerHeight = 26;

    private readonly nint _display, _root, _banner, _context;
    private readonly int _screen, _width, _height;
    private readonly byte _stopKey;
    private readonly HashSet<byte> _keys = [];
    private readonly HashSet<uint> _buttons = [];
    private readonly byte[] _keymap = new byte[32];
    private (int X, int Y) _put;
    private string _words = "";

    /// <exception cref="InvalidOperationException">There is no such screen, or it takes no input from programs.</exception>
    public Screen(string? name)
    {
        _display = X11.XOpenDisplay(name);
        if (_display == 0) throw new InvalidOperationException($"The screen {name ?? "(DISPLAY)"} cannot be opened.");
        if (X11.XTestQueryExtension(_display, out _, out _, out _, out _) == 0)
            throw new InvalidOperationException("This screen takes no input from programs (the XTEST extension is missing).");
        _screen = X11.XDefaultScreen(_display);
        _root = X11.XDefaultRootWindow(_display);
        (_width, _height) = (X11.XDisplayWidth(_display, _screen), X11.XDisplayHeight(_display, _screen));
        _stopKey = X11.XKeysymToKeycode(_display, X11.XStringToKeysym("Pause"));
        if (_stopKey != 0) _ = X11.XGrabKey(_display, _stopKey, X11.AnyModifier, _root, 0, 1, 1);
        _banner = X11.XCreateSimpleWindow(_display, _root, 0, 0, (uint)_width, BannerHeight, 0, 0, 0xF3E3B3);
        _ = X11.XChangeWindowAttributes(_display, _banner, X11.OverrideRedirect, new X11.Attributes { OverrideRedirect = 1 });
        _ = X11.XSelectInput(_display, _banner, X11.ExposureMask);
        _context = X11.XCreateGC(_display, _banner, 0, 0);
    }

    /// <summary>Says on the screen who drives it, and how it is stopped.</summary>
    public void Show(string words)
    {
        _words = words;
        _put = Pointer();
        _ = X11.XMapRaised(_display, _banner);
        Draw();
    }

    private void Draw()
    {
        var text = Encoding.Latin1.GetBytes(_words);
        _ = X11.XClearWindow(_display, _banner);
        _ = X11.XDrawString(_display, _banner, _context, 12, 17, text, text.Length);
        _ = X11.XFlush(_display);
    }

    /// <param name="x">0 to 1 across the screen.</param>
    /// <param name="y">0 to 1 down the screen.</param>
    public void Move(double x, double y)
    {
        _put = ((int)Math.Round(x * (_width - 1)), (int)Math.Round(y * (_height - 1)));
        _ = X11.XTestFakeMotionEvent(_display, _screen, _put.X, _put.Y, 0);
        _ = X11.XFlush(_display);
    }

    /// <param name="button">1, 2 or 3; the wheel's notches are 4 to 7.</param>
    public void Press(uint button, bool down)
    {
        if (!(down ? _buttons.Add(button) : _buttons.Remove(button))) return;
        _ = X11.XTestFakeButtonEvent(_display, button, down ? 1 : 0, 0);
        _ = X11.XFlush(_display);
    }

    public void Turn(double right, double down)
    {
        foreach (var (notches, forward, back) in new[] { (down, 5u, 4u), (right, 7u, 6u) })
            for (var n = 0; n < Math.Min(10, Math.Abs(Math.Round(notches))); n++)
            {
                Press(notches > 0 ? forward : back, true);
                Press(notches > 0 ? forward : back, false);
            }
    }

    /// <summary>A key that is not there, or not passed on, does nothing. Another console is reached by nobody from afar.</summary>
    public void Key(string code, bool down)
    {
        if (Keys.KeysymOf(code) is not { } name) return;
        if (down && code[0] == 'F' && Holds("Control_L", "Control_R") && Holds("Alt_L")) return;
        var key = X11.XKeysymToKeycode(_display, X11.XStringToKeysym(name));
        if (key == 0 || key == _stopKey || !(down ? _keys.Add(key) : _keys.Remove(key))) return;
        _ = X11.XTestFakeKeyEvent(_display, key, down ? 1 : 0, 0);
        _ = X11.XFlush(_display);
    }

    private bool Holds(params string[] names) =>
        names.Any(name => _keys.Contains(X11.XKeysymToKeycode(_display, X11.XStringToKeysym(name))));

    /// <summary>Lets go of all that was pressed, and says nothing more on the screen.</summary>
    public void Release()
    {
        foreach (var button in _buttons.ToList()) Press(button, false);
        foreach (var key in _keys) _ = X11.XTestFakeKeyEvent(_display, key, 0, 0);
        _keys.Clear();
        _ = X11.XUnmapWindow(_display, _banner);
        _ = X11.XSync(_display, 0);
    }

    /// <summary>Somebody sits at the screen and moves or presses something, or the stop key.</summary>
    public bool IsTouched()
    {
        var stopped = false;
        while (X11.XPending(_display) > 0)
        {
            _ = X11.XNextEvent(_display, out var happened);
            if (happened.Kind == X11.KeyPress && happened.Code == _stopKey) stopped = true;
            else if (happened.Kind == X11.Expose) Draw();
        }
        var (x, y) = Pointer();
        if (stopped || Math.Abs(x - _put.X) > Still || Math.Abs(y - _put.Y) > Still) return true;
        _ = X11.XQueryKeymap(_display, _keymap);
        for (var key = 8; key < 256; key++)
            if ((_keymap[key / 8] & (1 << (key % 8))) != 0 && !_keys.Contains((byte)key)) return true;
        return false;
    }

    private (int X, int Y) Pointer()
    {
        _ = X11.XQueryPointer(_display, _root, out _, out _, out var x, out var y, out _, out _, out _);
        return (x, y);
    }

    public void Dispose()
    {
        Release();
        _ = X11.XCloseDisplay(_display);
    }
}
