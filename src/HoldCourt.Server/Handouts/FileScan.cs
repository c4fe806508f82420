using System.Diagnostics;
using HoldCourt.Server.Exhibits;
using Microsoft.Extensions.Options;

namespace HoldCourt.Server.Handouts;

/// <summary>Looks at a file that has come whole, before anybody else can have it.</summary>
internal interface IFileScan
{
    /// <returns>False when nobody may have it.</returns>
    /// <exception cref="IOException">It could not be looked at; then nobody may have it, either.</exception>
    Task<bool> IsClean(string path, CancellationToken cancel);
}

/// <summary>
/// Runs the program that the house names under <c>Files:Scan</c>, with the file's path as its only argument: exit 0 is clean, 1 is not,
/// anything else is a failure. Without one a stand-in looks for the words of a made-up harmful file, so that it can be tried.
/// </summary>
internal sealed class FileScan(IOptions<FileBounds> options) : IFileScan
{
    /// <summary>What the stand-in takes for harmful.</summary>
    public static ReadOnlySpan<byte> Harmful => "HOLD COURT HARMFUL SAMPLE"u8;

    private static readonly TimeSpan _limit = TimeSpan.FromMinutes(2);

    public async Task<bool> IsClean(string path, CancellationToken cancel)
    {
        if (options.Value.Scan is not { Length: > 0 } program) return !await Holds(path, cancel);
        using var process = new Process();
        process.StartInfo = new ProcessStartInfo(program, [path]) { UseShellExecute = false };
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        stop.CancelAfter(_limit);
        try
        {
            process.Start();
            await process.WaitForExitAsync(stop.Token);
        }
        catch (Exception e) when (e is System.ComponentModel.Win32Exception or OperationCanceledException)
        {
            throw new IOException($"The program {program} did not look at the file.", e);
        }
        return process.ExitCode switch
        {
            0 => true,
            1 => false,
            var exit => throw new IOException($"The program {program} ended with {exit}.")
        };
    }

    private static async Task<bool> Holds(string path, CancellationToken cancel)
    {
        await using var file = File.OpenRead(path);
        var buffer = new byte[128 * 1024];
        var kept = 0;
        for (int read; (read = await file.ReadAsync(buffer.AsMemory(kept), cancel)) > 0;)
        {
            var there = buffer.AsSpan(0, kept + read);
            if (there.IndexOf(Harmful) >= 0) return true;
            // It may lie across the border.
            kept = Math.Min(Harmful.Length - 1, there.Length);
            there[^kept..].CopyTo(buffer);
        }
        return false;
    }
}
