namespace HoldCourt.Core.Signs;

/// <summary>How it goes for somebody, in one word; it stays until it is changed.</summary>
public enum State { Following, LostYou, CannotHear, Done, BackSoon }

/// <summary>A reaction: seen for some seconds, counted, and gone.</summary>
public enum Sign { Agreed, Thanks, Applause, Laughing }
