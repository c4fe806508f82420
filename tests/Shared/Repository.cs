namespace HoldCourt.Tests;

/// <summary>Where the project stands.</summary>
internal static class Repository
{
    public static string Root { get; } = Find(AppContext.BaseDirectory);

    private static string Find(string folder) =>
        File.Exists(Path.Combine(folder, "HoldCourt.slnx")) ? folder : Find(Path.GetDirectoryName(folder)!);
}
