using System.Runtime.InteropServices;

namespace HoldCourt.Agent;

/// <summary>What is used of Xlib and of the XTEST extension, by the names of their manuals.</summary>
internal static partial class X11
{
    private const string Lib = "libX11.so.6", Test = "libXtst.so.6";

    public const int KeyPress = 2, ButtonPress = 4, MotionNotify = 6, Expose = 12;
    public const nint KeyPressMask = 1, ButtonPressMask = 4, ExposureMask = 1 << 15;
    public const uint AnyModifier = 1 << 15;
    public const nuint OverrideRedirect = 1 << 9;

    [LibraryImport(Lib)] public static partial int XInitThreads();
    [LibraryImport(Lib, StringMarshalling = StringMarshalling.Utf8)] public static partial nint XOpenDisplay(string? name);
    [LibraryImport(Lib)] public static partial int XCloseDisplay(nint display);
    [LibraryImport(Lib)] public static partial int XDefaultScreen(nint display);
    [LibraryImport(Lib)] public static partial nint XDefaultRootWindow(nint display);
    [LibraryImport(Lib)] public static partial int XDisplayWidth(nint display, int screen);
    [LibraryImport(Lib)] public static partial int XDisplayHeight(nint display, int screen);
    [LibraryImport(Lib)] public static partial int XFlush(nint display);
    [LibraryImport(Lib)] public static partial int XSync(nint display, int discard);
    [LibraryImport(Lib)] public static partial int XPending(nint display);
    [LibraryImport(Lib)] public static partial int XNextEvent(nint display, out Event happened);

    [LibraryImport(Lib)]
    public static partial int XQueryPointer(
        nint display, nint window, out nint root, out nint child, out int x, out int y, out int inWindowX, out int inWindowY,
        out uint mask);

    [LibraryImport(Lib)] public static partial int XQueryKeymap(nint display, [Out] byte[] keys);
    [LibraryImport(Lib, StringMarshalling = StringMarshalling.Utf8)] public static partial nuint XStringToKeysym(string name);
    [LibraryImport(Lib)] public static partial byte XKeysymToKeycode(nint display, nuint keysym);

    [LibraryImport(Lib)]
    public static partial int XGrabKey(nint display, int keycode, uint modifiers, nint window, int ownerEvents, int pointer, int keyboard);

    [LibraryImport(Lib)]
    public static partial nint XCreateSimpleWindow(
        nint display, nint parent, int x, int y, uint width, uint height, uint borderWidth, nuint border, nuint background);

    [LibraryImport(Lib)] public static partial int XChangeWindowAttributes(nint display, nint window, nuint mask, in Attributes attributes);
    [LibraryImport(Lib)] public static partial int XSelectInput(nint display, nint window, nint mask);
    [LibraryImport(Lib)] public static partial int XMapRaised(nint display, nint window);
    [LibraryImport(Lib)] public static partial int XUnmapWindow(nint display, nint window);
    [LibraryImport(Lib)] public static partial int XClearWindow(nint display, nint window);
    [LibraryImport(Lib)] public static partial int XSetInputFocus(nint display, nint window, int revertTo, nuint time);
    [LibraryImport(Lib)] public static partial nint XCreateGC(nint display, nint drawable, nuint mask, nint values);
    [LibraryImport(Lib)] public static partial int XSetForeground(nint display, nint context, nuint colour);

    [LibraryImport(Lib)]
    public static partial int XFillRectangle(nint display, nint drawable, nint context, int x, int y, uint width, uint height);

    [LibraryImport(Lib)]
    public static partial int XDrawString(nint display, nint drawable, nint context, int x, int y, byte[] text, int length);

    [LibraryImport(Lib)]
    public static partial int XLookupString(in Event pressed, [Out] byte[] text, int size, out nuint keysym, nint state);

    [LibraryImport(Lib)] private static partial nint XKeysymToString(nuint keysym);

    public static string NameOf(nuint keysym) => Marshal.PtrToStringUTF8(XKeysymToString(keysym)) ?? "";

    [LibraryImport(Test)]
    public static partial int XTestQueryExtension(nint display, out int events, out int errors, out int major, out int minor);

    [LibraryImport(Test)] public static partial int XTestFakeMotionEvent(nint display, int screen, int x, int y, nuint delay);
    [LibraryImport(Test)] public static partial int XTestFakeButtonEvent(nint display, uint button, int down, nuint delay);
    [LibraryImport(Test)] public static partial int XTestFakeKeyEvent(nint display, uint keycode, int down, nuint delay);

    /// <summary>XEvent as a key, a button or a movement; of the others only the kind is read.</summary>
    [StructLayout(LayoutKind.Sequential)]
    public struct Event
    {
        public int Kind;
        public nuint Serial;
        public int Sent;
        public nint Display, Window, Root, Subwindow;
        public nuint Time;
        public int X, Y, RootX, RootY;
        public uint State, Code;
        public int SameScreen;
        private readonly Rest _rest;
    }

    /// <summary>XEvent is 24 words of the machine.</summary>
    [System.Runtime.CompilerServices.InlineArray(12)]
    private struct Rest
    {
        private nint _word;
    }

    /// <summary>XSetWindowAttributes.</summary>
    [StructLayout(LayoutKind.Sequential)]
    public struct Attributes
    {
        public nuint BackgroundPixmap, BackgroundPixel, BorderPixmap, BorderPixel;
        public int BitGravity, WinGravity, BackingStore;
        public nuint BackingPlanes, BackingPixel;
        public int SaveUnder;
        public nint EventMask, DoNotPropagateMask;
        public int OverrideRedirect;
        public nuint Colormap, Cursor;
    }
}
