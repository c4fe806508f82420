using System.ComponentModel;
using System.Diagnostics;

namespace HoldCourt.Server.Exhibits;

/// <param name="TooLong">It was stopped because it took too long, or too much.</param>
internal sealed record Ran(int Exit, byte[] Output, string Error, bool TooLong);

/// <summary>
/// Runs a program on a file that may be hostile: without network, without anything of the machine but its programs and fonts, within
/// limits of time, memory and size (bubblewrap and prlimit).
/// </summary>
internal static class Sandbox
{
    /// <summary>How often it is looked how much memory it has.</summary>
    private static readonly TimeSpan _betweenLooks = TimeSpan.FromMilliseconds(200);

    /// <summary>Bytes of memory, of one process and of all that were started together, and bytes of each file written.</summary>
    private const long Memory = 1_500_000_000, Written = 100_000_000;

    /// <summary>Largest output, in bytes: a page of 4,000 by 4,000 is 48 MB.</summary>
    private const int MostOutput = 64_000_000;

    public static bool IsThere { get; } = new[] { "bwrap", "prlimit", "timeout", "nice" }
        .All(program => File.Exists($"/usr/bin/{program}"));

    /// <summary>
    /// Whether it can be used here: containers and services may be kept from making one. Asked once, since that does not change.
    /// </summary>
    public static Task<bool> Works => _works.Value;

    private static readonly Lazy<Task<bool>> _works = new(async () =>
    {
        if (!IsThere) return false;
        var empty = Path.GetTempFileName();
        try { return (await Run(empty, TimeSpan.FromSeconds(10), CancellationToken.None, "true")).Exit == 0; }
        finally { File.Delete(empty); }
    });

    public static bool Has(string program) => IsThere && File.Exists($"/usr/bin/{program}");

    /// <param name="input">Stands as /in for the program.</param>
    /// <param name="folder">Stands as /out, where it may write; null for none.</param>
    public static Task<Ran> Run(string input, string? folder, TimeSpan limit, CancellationToken cancel, params string[] command) =>
        Run(input, limit, Memory,
        [
            .. folder is null ? Array.Empty<string>() : ["--bind", folder, "/out"],
            "--ro-bind-try", "/etc/libreoffice", "/etc/libreoffice",
            // The office program does not work without it; others go without, since some machines let nobody make one.
            .. command is ["soffice", ..] ? ["--proc", "/proc"] : Array.Empty<string>(), .. command
        ], cancel);

    /// <summary>This program itself, started with other words. It reserves more than it uses, so what it uses is watched alone.</summary>
    public static async Task<Ran> RunOwn(
        string input, TimeSpan limit, (string Name, string Value)[] settings, CancellationToken cancel, params string[] words) =>
        await OwnWorks
            ? await RunOwnInside(input, limit, settings, words, cancel)
            : await Run(input, limit, 0,
            [
                "env", "-i", "DOTNET_EnableDiagnostics=0", .. settings.Select(one => $"{one.Name}={one.Value}"),
                OwnProgram, typeof(Sandbox).Assembly.Location, .. words.Select(word => word == "/in" ? input : word)
            ], cancel, isBare: true);

    private static Task<Ran> RunOwnInside(
        string input, TimeSpan limit, (string Name, string Value)[] settings, string[] words, CancellationToken cancel) =>
        Run(input, limit, 0,
        [
            .. OwnBinds, .. settings.SelectMany(one => (string[])["--setenv", one.Name, one.Value]),
            OwnProgram, typeof(Sandbox).Assembly.Location, .. words
        ], cancel);

    /// <summary>
    /// Whether this program runs in it: it needs a /proc of its own, which some machines let nobody make. Where it does not, it runs in a
    /// process of its own with nothing but its limits, and the log says so.
    /// </summary>
    public static Task<bool> OwnWorks => _ownWorks.Value;

    private static readonly Lazy<Task<bool>> _ownWorks = new(async () =>
    {
        if (!await Works) return false;
        var dot = Path.GetTempFileName();
        try
        {
            await File.WriteAllBytesAsync(dot, Convert.FromBase64String(Dot));
            return (await RunOwnInside(dot, TimeSpan.FromSeconds(30), [], [PictureReader.Command, "/in", "1"], default))
                is { Exit: 0, Output.Length: 12 };
        }
        finally { File.Delete(dot); }
    });

    /// <summary>A picture of one dot (PNG).</summary>
    private const string Dot =
        "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";

    /// <summary>The words that start this program itself in a sandbox, for somebody who speaks with it meanwhile.</summary>
    /// <param name="reads">A folder that it may read, under its own name.</param>
    /// <param name="writes">One where it may write.</param>
    public static async Task<string[]> Own(string reads, string writes, params string[] words) =>
    [
        .. await OwnWorks ? [.. _machine, "--ro-bind", reads, reads, "--bind", writes, writes, .. OwnBinds] : Array.Empty<string>(),
        OwnProgram, typeof(Sandbox).Assembly.Location, .. words
    ];

    /// <summary>
    /// Starts what is to end with this program. A sandbox ends with the thread that started it, and not with its program
    /// (PR_SET_PDEATHSIG, prctl(2)); the threads of requests come and go, so it has one of its own.
    /// </summary>
    /// <param name="over">When nobody needs the process any more.</param>
    /// <exception cref="Win32Exception">It could not be started.</exception>
    public static Task<Process> Start(ProcessStartInfo start, Task over)
    {
        var started = new TaskCompletionSource<Process>(TaskCreationOptions.RunContinuationsAsynchronously);
        new Thread(() =>
        {
            try { started.SetResult(Process.Start(start)!); }
            catch (Exception e)
            {
                started.SetException(e);
                return;
            }
            over.Wait();
        })
        { IsBackground = true, Name = "Sandbox" }.Start();
        return started.Task;
    }

    /// <summary>What every program needs of the machine, and nothing else of it.</summary>
    private static readonly string[] _machine =
    [
        "bwrap", "--unshare-all", "--die-with-parent", "--new-session",
        "--ro-bind", "/usr", "/usr", "--symlink", "usr/lib", "/lib", "--symlink", "usr/lib64", "/lib64", "--symlink", "usr/bin", "/bin",
        "--ro-bind", "/etc/fonts", "/etc/fonts", "--ro-bind-try", "/etc/alternatives", "/etc/alternatives",
        "--ro-bind-try", "/etc/ld.so.cache", "/etc/ld.so.cache", "--ro-bind-try", "/var/cache/fontconfig", "/var/cache/fontconfig",
        "--tmpfs", "/tmp", "--dev", "/dev", "--clearenv", "--setenv", "PATH", "/usr/bin", "--setenv", "HOME", "/tmp"
    ];

    private static string[] OwnBinds
    {
        get
        {
            var (program, folder) = (Path.GetDirectoryName(OwnProgram)!, AppContext.BaseDirectory.TrimEnd('/'));
            return
            [
                "--ro-bind", program, program, "--ro-bind", folder, folder, "--proc", "/proc",
                "--setenv", "DOTNET_EnableDiagnostics", "0", "--setenv", "DOTNET_TieredPGO", "0"
            ];
        }
    }

    /// <summary>What runs programs like this one, where it really lies.</summary>
    private static string OwnProgram
    {
        get
        {
            var path = Environment.ProcessPath is { } own && Path.GetFileNameWithoutExtension(own) == "dotnet" ? own : "/usr/bin/dotnet";
            return new FileInfo(path).ResolveLinkTarget(returnFinalTarget: true)?.FullName ?? path;
        }
    }

    /// <param name="reserved">Bytes of address space of each process; 0 for no such limit.</param>
    /// <param name="rest">What else the sandbox is to have, and the command.</param>
    /// <param name="isBare">Only with limits of time and size.</param>
    private static async Task<Ran> Run(
        string input, TimeSpan limit, long reserved, string[] rest, CancellationToken cancel, bool isBare = false)
    {
        var seconds = ((int)limit.TotalSeconds).ToString(System.Globalization.CultureInfo.InvariantCulture);
        var isOffice = rest.Contains("soffice");
        List<string> arguments =
        [
            "-n", "10", "timeout", "-k", "1", seconds, "prlimit", $"--cpu={seconds}", $"--fsize={Written}",
            .. reserved > 0 && !isOffice ? [$"--as={reserved}"] : Array.Empty<string>(),
            .. isBare ? Array.Empty<string>() : [.. _machine, "--ro-bind", input, "/in"],
            .. rest
        ];
        using var process = new Process();
        process.StartInfo = new ProcessStartInfo("/usr/bin/nice", arguments)
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            UseShellExecute = false
        };
        process.Start();
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        stop.CancelAfter(limit + TimeSpan.FromSeconds(5));
        var tooMuch = false;
        using var watch = new Timer(_ =>
        {
            // All that it started counts, and what lies in its folder of memory.
            if (tooMuch || ProcessTree.Memory(process.Id) is not > Memory) return;
            tooMuch = true;
            Kill(process);
        }, null, _betweenLooks, _betweenLooks);
        try
        {
            var error = ReadSome(process.StandardError.BaseStream, 4_000, stop.Token);
            var output = await ReadSome(process.StandardOutput.BaseStream, MostOutput, stop.Token);
            var words = System.Text.Encoding.UTF8.GetString(await error);
            await process.WaitForExitAsync(stop.Token);
            // 124: timeout's own; 137 and 152: killed, and out of processor time.
            return new Ran(process.ExitCode, output, words,
                tooMuch || process.ExitCode is 124 or 137 or 152 || output.Length >= MostOutput);
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return new Ran(-1, [], "", TooLong: true);
        }
        finally
        {
            Kill(process);
        }
    }

    /// <inheritdoc cref="Run(string, string?, TimeSpan, CancellationToken, string[])"/>
    public static Task<Ran> Run(string input, TimeSpan limit, CancellationToken cancel, params string[] command) =>
        Run(input, null, limit, cancel, command);

    /// <summary>Reads up to so many bytes, and lets the rest go.</summary>
    private static async Task<byte[]> ReadSome(Stream from, int most, CancellationToken cancel)
    {
        using var kept = new MemoryStream();
        var buffer = new byte[128 * 1024];
        for (int read; (read = await from.ReadAsync(buffer, cancel)) > 0;)
            if (kept.Length < most) kept.Write(buffer, 0, (int)Math.Min(read, most - kept.Length));
            else break;
        return kept.ToArray();
    }

    private static void Kill(Process process)
    {
        try
        {
            if (!process.HasExited) process.Kill(entireProcessTree: true);
        }
        catch (Exception e) when (e is InvalidOperationException or Win32Exception)
        {
            // It has just ended by itself.
        }
    }
}
