namespace HoldCourt.Agent;

/// <summary>From a key's place on the keyboard (W3C UI Events <c>code</c>) to the name of an X keysym.</summary>
internal static class Keys
{
    private static readonly Dictionary<string, string> _named = """
        Enter=Return Escape=Escape Backspace=BackSpace Tab=Tab Space=space Minus=minus Equal=equal
        BracketLeft=bracketleft BracketRight=bracketright Backslash=backslash Semicolon=semicolon Quote=apostrophe
        Backquote=grave Comma=comma Period=period Slash=slash CapsLock=Caps_Lock ArrowUp=Up ArrowDown=Down
        ArrowLeft=Left ArrowRight=Right Home=Home End=End PageUp=Prior PageDown=Next Insert=Insert Delete=Delete
        ShiftLeft=Shift_L ShiftRight=Shift_R ControlLeft=Control_L ControlRight=Control_R AltLeft=Alt_L
        AltRight=ISO_Level3_Shift NumpadEnter=KP_Enter NumpadAdd=KP_Add NumpadSubtract=KP_Subtract
        NumpadMultiply=KP_Multiply NumpadDivide=KP_Divide NumpadDecimal=KP_Decimal
        """.Split([' ', '\n'], StringSplitOptions.RemoveEmptyEntries).Select(pair => pair.Split('='))
        .ToDictionary(pair => pair[0], pair => pair[1]);

    /// <summary>Null for a key that is not passed on: those of the machine itself, and Pause, which stops.</summary>
    public static string? KeysymOf(string code) =>
        _named.TryGetValue(code, out var name) ? name
        : code is ['K', 'e', 'y', >= 'A' and <= 'Z'] ? code[3..].ToLowerInvariant()
        : code is ['D', 'i', 'g', 'i', 't', >= '0' and <= '9'] ? code[5..]
        : code is ['N', 'u', 'm', 'p', 'a', 'd', >= '0' and <= '9'] ? $"KP_{code[6..]}"
        : code is ['F', >= '1' and <= '9'] or ['F', '1', >= '0' and <= '2'] ? code
        : null;
}
