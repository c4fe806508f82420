using HoldCourt.Server.Hosting;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using HoldCourt.Store.Planning;
using MailKit.Net.Smtp;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using MimeKit;

namespace HoldCourt.Server.Mailing;

/// <summary>
/// Hands what waits in the outbox to the mail server, the oldest first. What it does not take now is tried again after one
/// minute, then after twice as long each time, four hours at most, for two days. The answer is written down before the
/// next message goes; after a kill in between, that one message goes again under its Message-ID, by which mail systems know
/// it (RFC 5322, section 3.6.4).
/// </summary>
internal sealed partial class Postman(Outbox outbox,
    IDbContextFactory<CourtDb> databases, IOptions<MailOptions> options, Preparation preparation, TimeProvider time,
    Supervisor supervisor, ILogger<Postman> log)
    : SupervisedService(supervisor)
{
    private const int MostAtOnce = 50, LongestAnswer = 300;
    private const string Late = "The mail server did not answer in time.";
    private static readonly TimeSpan _idle = TimeSpan.FromSeconds(2), _first = TimeSpan.FromMinutes(1), _longest = TimeSpan.FromHours(4),
    _givesUp = TimeSpan.FromDays(2);

    protected override string Name => "mail";

    protected override async Task Work(CancellationToken stoppingToken)
    {
        await preparation.Ready.WaitAsync(stoppingToken);
        while (true)
        {
            // When the database is locked or the disk full nothing is lost, since nothing has been taken away.
            await Supervisor.Once(Name, async () =>
            {
                while (await Deliver(stoppingToken) == MostAtOnce) { }
            });
            await outbox.News(_idle, stoppingToken);
        }
    }

    /// <summary>Tries what is due now.</summary>
    /// <returns>How many were looked at.</returns>
    public async Task<int> Deliver(CancellationToken cancel)
    {
        if (!outbox.HasServer) return 0;
        await using var db = await databases.CreateDbContextAsync(cancel);
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        var due = await db.Outbox.Where(message => message.State == MailState.Waiting && message.NextAt <= now)
            .OrderBy(message => message.Id).Take(MostAtOnce).ToListAsync(cancel);
        if (due.Count == 0) return 0;
        using var client = new SmtpClient { Timeout = options.Value.PatienceSeconds * 1_000 };
        var unreachable = await Try(Connect, cancel);
        foreach (var message in due)
        {
            cancel.ThrowIfCancellationRequested();
            if (unreachable is null) await Hand(client, message);
            else PutOff(message, unreachable, "Not reached: ");
            await db.SaveChangesAsync(CancellationToken.None);
            if (unreachable is null && !client.IsConnected) unreachable = await Try(Connect, cancel);
        }
        if (client.IsConnected) await Try(patience => client.DisconnectAsync(true, patience), cancel);
        return due.Count;

        async Task Connect(CancellationToken patience)
        {
            await client.ConnectAsync(options.Value.SmtpHost!, options.Value.SmtpPort, cancellationToken: patience);
            if (options.Value.SmtpUser is { Length: > 0 } user)
                await client.AuthenticateAsync(user, options.Value.SmtpPassword ?? "", patience);
        }
    }

    private async Task Hand(SmtpClient client, OutboxMessage message)
    {
        // What is on its way is let through even while the server stops, so that its answer is known.
        var trouble = await Try(async patience =>
        {
            using var mime = await MimeMessage.LoadAsync(new MemoryStream(message.Mime), patience);
            message.Answer = Short(await client.SendAsync(mime, patience));
        }, CancellationToken.None);
        if (trouble is null)
        {
            message.Tries++;
            (message.State, message.SentAt) = (MailState.Sent, time.GetUtcNow().ToUnixTimeMilliseconds());
            if (message.IsSecret) message.Mime = [];
        }
        else if (trouble is SmtpCommandException { StatusCode: >= (SmtpStatusCode)500 } or ParseException or FormatException)
        {
            message.Tries++;
            (message.State, message.Answer) = (MailState.GivenUp, Short(trouble.Message));
            LogRefused(message.Id, message.Answer);
        }
        else PutOff(message, trouble);
    }

    private void PutOff(OutboxMessage message, Exception why, string before = "")
    {
        var now = time.GetUtcNow().ToUnixTimeMilliseconds();
        message.Tries++;
        message.Answer = Short(why is OperationCanceledException or TimeoutException ? Late : before + why.Message);
        if (now - message.At > _givesUp.TotalMilliseconds) message.State = MailState.GivenUp;
        else message.NextAt = now
            + (long)Math.Min(_longest.TotalMilliseconds, _first.TotalMilliseconds * Math.Pow(2, Math.Min(message.Tries - 1, 20)));
        LogPutOff(message.Id, message.Tries, message.Answer);
    }

    private async Task<Exception?> Try(Func<CancellationToken, Task> what, CancellationToken cancel)
    {
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patience.CancelAfter(TimeSpan.FromSeconds(options.Value.PatienceSeconds));
        try
        {
            await what(patience.Token);
            return null;
        }
        catch (Exception e) when (e is not OutOfMemoryException && !cancel.IsCancellationRequested)
        {
            return e;
        }
    }

    private static string Short(string answer) => answer.Length > LongestAnswer ? answer[..LongestAnswer] : answer;

    [LoggerMessage(LogLevel.Warning, "The mail server refused message {Id}: {Answer}")]
    private partial void LogRefused(long id, string answer);

    [LoggerMessage(LogLevel.Warning, "Message {Id} was put off after try {Tries}: {Answer}")]
    private partial void LogPutOff(long id, int tries, string answer);
}
