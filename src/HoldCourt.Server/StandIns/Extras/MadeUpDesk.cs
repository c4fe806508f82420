using System.Buffers.Binary;
using System.Collections.Concurrent;
using System.ComponentModel;
using System.Diagnostics;
using HoldCourt.Server.Hosting;
using HoldCourt.Server.Lending;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.Extensions.Options;

namespace HoldCourt.Server.StandIns.Extras;

/// <summary>
/// A desk that one of the extras shares and lends: an X server without a screen, the made-up desk of the agent on it, its picture as
/// VP8 by ffmpeg, and the agent that does on it what a driver wishes. All of it ends with this.
/// </summary>
internal sealed partial class MadeUpDesk : IDisposable
{
    private const int HeaderLength = 32, FrameHeaderLength = 12, LargestFrame = 4_000_000, MostWaiting = 60;

    private readonly string _agentProgram;
    private readonly List<Process> _programs = [];
    private readonly ConcurrentQueue<byte[]> _frames = [];
    private readonly string _display;

    private MadeUpDesk(string agentProgram, Process screen, string display)
    {
        (_agentProgram, _display) = (agentProgram, display);
        _programs.Add(screen);
    }

    /// <param name="agentProgram">Path of the agent's HoldCourt.Agent.dll.</param>
    /// <returns>Null when something that it needs is not there; the log says what.</returns>
    public static async Task<MadeUpDesk?> Open(string agentProgram, ILogger log)
    {
        MadeUpDesk? desk = null;
        try
        {
            // It chooses a number that is free, says it, and ends with the last program on it.
            var screen = Start("Xvfb", "-displayfd", "1", "-screen", "0", "1280x720x24", "-nolisten", "tcp", "-terminate");
            var number = await screen.StandardOutput.ReadLineAsync().WaitAsync(TimeSpan.FromSeconds(20));
            desk = new MadeUpDesk(agentProgram, screen, $":{number}");
            // The desk ends when its input does, and so with a server that was killed.
            var made = desk.Run("dotnet", agentProgram, "--desktop", "--screen", desk._display, "--until-input-ends");
            await made.StandardOutput.ReadLineAsync().WaitAsync(TimeSpan.FromSeconds(20));
            var picture = desk.Run("ffmpeg", "-nostdin", "-loglevel", "error", "-f", "x11grab", "-framerate", "12",
                "-video_size", "1280x720", "-i", desk._display, "-c:v", "libvpx", "-deadline", "realtime", "-cpu-used", "8",
                "-b:v", "1500k", "-g", "24", "-f", "ivf", "-flush_packets", "1", "pipe:1");
            _ = desk.Read(picture.StandardOutput.BaseStream);
            return desk;
        }
        catch (Exception e) when (e is Win32Exception or TimeoutException or InvalidOperationException or IOException)
        {
            LogMissing(log, e.Message);
            desk?.Dispose();
            return null;
        }
    }

    /// <summary>The next frame of its picture; null when there is none yet.</summary>
    public (byte[] Frame, bool IsKey)? Next() => _frames.TryDequeue(out var frame) ? (frame, IsKey(frame)) : null;

    /// <summary>Starts the agent beside it.</summary>
    /// <param name="code">For one connection.</param>
    public void Connect(string server, string code) =>
        Run("dotnet", _agentProgram, "--server", server, "--code", code, "--screen", _display);

    /// <summary>VP8 marks a key frame by a zero in the lowest bit of its first byte (RFC 6386, 9.1).</summary>
    private static bool IsKey(byte[] frame) => (frame[0] & 1) == 0;

    private async Task Read(Stream ivf)
    {
        try
        {
            var header = new byte[HeaderLength];
            await ivf.ReadExactlyAsync(header);
            var skips = false;
            while (true)
            {
                await ivf.ReadExactlyAsync(header.AsMemory(0, FrameHeaderLength));
                var length = BinaryPrimitives.ReadInt32LittleEndian(header);
                if (length is <= 0 or > LargestFrame) return;
                var frame = new byte[length];
                await ivf.ReadExactlyAsync(frame);
                // Nobody takes them while nobody sees them: it goes on at a key frame.
                if (_frames.Count >= MostWaiting) (skips, _) = (true, Empty());
                if (skips && !IsKey(frame)) continue;
                skips = false;
                _frames.Enqueue(frame);
            }
        }
        catch (Exception e) when (e is IOException or ObjectDisposedException)
        {
            // The picture has ended.
        }
    }

    private bool Empty()
    {
        _frames.Clear();
        return true;
    }

    private Process Run(string file, params string[] arguments)
    {
        var process = Start(file, arguments);
        lock (_programs) _programs.Add(process);
        return process;
    }

    private static Process Start(string file, params string[] arguments) => Process.Start(
        new ProcessStartInfo(file, arguments) { RedirectStandardOutput = true, RedirectStandardInput = true })!;

    public void Dispose()
    {
        lock (_programs)
        {
            foreach (var process in Enumerable.Reverse(_programs))
            {
                try
                {
                    if (!process.HasExited) process.Kill();
                }
                catch (InvalidOperationException)
                {
                    // It has ended by itself.
                }
                process.Dispose();
            }
            _programs.Clear();
        }
    }

    [LoggerMessage(LogLevel.Warning, "There is no made-up desk: it needs Xvfb, libXtst, ffmpeg and the agent ({Why})")]
    private static partial void LogMissing(ILogger log, string why);
}

/// <summary>Opens made-up desks, where the house was started with one.</summary>
internal sealed class MadeUpDesks(IOptions<ExtrasOptions> options, Agents agents, IServer server, ILogger<MadeUpDesks> log)
{
    public async Task<MadeUpDesk?> Open() =>
        options.Value.Desk is { Length: > 0 } program ? await MadeUpDesk.Open(program, log) : null;

    /// <summary>Has the agent come in by the front door, with a code as a page would give it.</summary>
    public void Connect(MadeUpDesk desk, Guid sitting, Seat seat, int exhibit)
    {
        if (server.Features.Get<IServerAddressesFeature>()?.Addresses.FirstOrDefault(one =>
                one.StartsWith("http:", StringComparison.Ordinal)) is { } bound && agents.Issue(sitting, seat.Person, exhibit) is { } code)
            desk.Connect(ServerAddresses.Of(bound).Here, code);
    }
}
