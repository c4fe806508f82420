using HoldCourt.Store.Planning;
using Microsoft.Extensions.Options;
using MimeKit;

namespace HoldCourt.Server.Mailing;

public sealed class MailOptions
{
    public string From { get; set; } = "hold-court@larkmoor.example.org";

    /// <summary>Host name of a mail server; without one, messages stay in the outbox.</summary>
    public string? SmtpHost { get; set; }
    public int SmtpPort { get; set; } = 587;
    public string? SmtpUser { get; set; }
    public string? SmtpPassword { get; set; }

    /// <summary>How long the mail server may take for one step, in seconds.</summary>
    public int PatienceSeconds { get; set; } = 20;
}

/// <summary>
/// The only way out for mail: a message is a row, written together with what it tells of, and <see cref="Postman"/> sends
/// it. What is not written is not sent, and what is written is.
/// </summary>
internal sealed class Outbox(IOptions<MailOptions> options, TimeProvider time) : IDisposable
{
    private readonly SemaphoreSlim _news = new(0, 1);

    public bool HasServer => options.Value.SmtpHost is { Length: > 0 };

    public string From => options.Value.From;

    /// <summary>A row to be added to the database together with what it tells of; <see cref="Nudge"/> afterwards.</summary>
    public OutboxMessage Row(MimeMessage message, string? owner, Guid? session = null, bool secret = false) => new()
    {
        OwnerId = owner,
        SessionId = session,
        To = message.To.ToString(),
        Subject = message.Subject ?? "",
        Mime = Bytes(message),
        IsSecret = secret,
        At = time.GetUtcNow().ToUnixTimeMilliseconds(),
        State = HasServer ? MailState.Waiting : MailState.Kept
    };

    /// <summary>There is something to send.</summary>
    public void Nudge()
    {
        try { _news.Release(); }
        catch (SemaphoreFullException) { /* It has been told already. */ }
    }

    public Task News(TimeSpan longest, CancellationToken cancel) => _news.WaitAsync(longest, cancel);

    private static byte[] Bytes(MimeMessage message)
    {
        using var stream = new MemoryStream();
        message.WriteTo(stream);
        return stream.ToArray();
    }

    public void Dispose() => _news.Dispose();
}
