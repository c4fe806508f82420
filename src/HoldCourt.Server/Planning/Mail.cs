using HoldCourt.Server.Texts;
using HoldCourt.Store;
using HoldCourt.Store.Planning;
using Ical.Net;
using Ical.Net.DataTypes;
using Calendar = Ical.Net.Calendar;
using Ical.Net.Serialization;
using MailKit.Net.Smtp;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using MimeKit;
using MimeKit.Text;

namespace HoldCourt.Server.Planning;

public sealed class MailOptions
{
    public string From { get; set; } = "hold-court@larkmoor.example.org";

    /// <summary>Host name of a mail server; without one, messages stay in the outbox.</summary>
    public string? SmtpHost { get; set; }
    public int SmtpPort { get; set; } = 587;
    public string? SmtpUser { get; set; }
    public string? SmtpPassword { get; set; }

    /// <summary>Where people reach this server, such as "https://court.example.org"; otherwise the address the host used.</summary>
    public string? Address { get; set; }
}

/// <summary>Why a message goes out.</summary>
public enum MailCause { Invitation, Change, Cancellation, Reminder }

/// <summary>Writes messages to people on the docket, keeps them in the outbox, and hands them to a mail server when there is one.</summary>
internal sealed partial class Mail(IDbContextFactory<CourtDb> databases, IOptions<MailOptions> options, TimeProvider time, ILogger<Mail> log)
{
    private static readonly TimeSpan _patience = TimeSpan.FromSeconds(20);

    public string AddressOr(string used) => (options.Value.Address ?? used).TrimEnd('/');

    public static bool IsAddress(string text) =>
        text.Length <= 254 && !text.Contains(' ', StringComparison.Ordinal) && MailboxAddress.TryParse(text, out var mailbox) && mailbox.Address == text.Trim()
        && mailbox.Address.Split('@') is [{ Length: > 0 and <= 64 }, var domain] && domain.Contains('.', StringComparison.Ordinal) && !domain.StartsWith('.') && !domain.EndsWith('.');

    /// <summary>Sends one message to each of these; those without an address are left out.</summary>
    /// <returns>How many messages went out.</returns>
    public async Task<int> Send(Session session, string host, IEnumerable<DocketRecord> to, MailCause cause, string address, Instant? occurrence = null)
    {
        await using var db = await databases.CreateDbContextAsync();
        var messages = new List<OutboxMessage>();
        foreach (var line in to.Where(line => line.Email is not null))
        {
            using var message = Compose(session, host, line, cause, address, occurrence);
            messages.Add(new OutboxMessage
            {
                OwnerId = session.OwnerId,
                To = message.To.ToString(),
                Subject = message.Subject ?? "",
                Mime = Bytes(message),
                At = time.GetUtcNow().ToUnixTimeMilliseconds(),
                Trouble = await Deliver(message)
            });
        }
        db.AddRange(messages);
        await db.SaveChangesAsync();
        return messages.Count;
    }

    private async Task<string?> Deliver(MimeMessage message)
    {
        if (options.Value.SmtpHost is not { Length: > 0 } smtpHost) return null;
        try
        {
            using var patience = new CancellationTokenSource(_patience);
            using var client = new SmtpClient();
            await client.ConnectAsync(smtpHost, options.Value.SmtpPort, cancellationToken: patience.Token);
            if (options.Value.SmtpUser is { Length: > 0 } user) await client.AuthenticateAsync(user, options.Value.SmtpPassword ?? "", patience.Token);
            await client.SendAsync(message, patience.Token);
            await client.DisconnectAsync(true, patience.Token);
            return null;
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            LogUndelivered(e, smtpHost);
            return e.Message.Length > 300 ? e.Message[..300] : e.Message;
        }
    }

    [LoggerMessage(LogLevel.Warning, "A message could not be handed to {Host}")]
    private partial void LogUndelivered(Exception e, string host);

    private MimeMessage Compose(Session session, string host, DocketRecord line, MailCause cause, string address, Instant? occurrence)
    {
        var message = new MimeMessage { Subject = ServerTexts.In(session.Language).Say("subject." + CoreJson.NameOf(cause), session.Title), Date = time.GetUtcNow() };
        message.From.Add(new MailboxAddress(ServerTexts.In(session.Language).Say("from", host), options.Value.From));
        message.To.Add(new MailboxAddress(line.Name, line.Email!));
        var text = new TextPart(TextFormat.Plain) { Text = JoiningText.For(session, host, line, cause, address, occurrence ?? (line.SlotAt is { } slot ? new Instant(slot) : null)) };
        if (session.StartsAt is null && line.SlotAt is null)
        {
            message.Body = text;
            return message;
        }
        var calendar = CalendarFor(session, host, line, cause, address);
        var part = new TextPart("calendar") { Text = calendar, ContentTransferEncoding = ContentEncoding.Base64 };
        part.ContentType.Parameters.Add("method", cause == MailCause.Cancellation ? "CANCEL" : "REQUEST");
        var file = new MimePart("application", "ics") { Content = new MimeContent(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(calendar))), ContentTransferEncoding = ContentEncoding.Base64, FileName = "session.ics", ContentDisposition = new ContentDisposition(ContentDisposition.Attachment) };
        message.Body = cause == MailCause.Reminder ? text : new Multipart("mixed") { new MultipartAlternative { text, part }, file };
        return message;
    }

    /// <summary>An iCalendar object by RFC 5545 and the iTIP method of RFC 5546 that fits.</summary>
    private string CalendarFor(Session session, string host, DocketRecord line, MailCause cause, string address)
    {
        var slot = line.SlotAt is not null;
        var series = slot
            ? PlanTimes.Event(new Session { OwnerId = "", Title = session.Title, Link = "", Orders = "", StartsAt = line.SlotAt, Minutes = line.Minutes ?? 15, Zone = session.Zone })
            : PlanTimes.Event(session);
        series.Uid = slot ? $"{session.Id:N}-{line.Id}@hold-court" : $"{session.Id:N}@hold-court";
        series.Sequence = session.Revision;
        series.Description = session.Description;
        series.Url = new Uri(JoiningText.LinkFor(session, line, address));
        series.Status = cause == MailCause.Cancellation ? EventStatus.Cancelled : EventStatus.Confirmed;
        series.DtStamp = new CalDateTime(time.GetUtcNow().UtcDateTime, "UTC", true);
        series.Organizer = new Organizer($"mailto:{options.Value.From}") { CommonName = host };
        series.Attendees.Add(new Attendee($"mailto:{line.Email}") { CommonName = line.Name, Rsvp = true, ParticipationStatus = EventParticipationStatus.NeedsAction });
        var calendar = new Calendar { Method = cause == MailCause.Cancellation ? "CANCEL" : "REQUEST", ProductId = "-//Hold Court//Planning//EN" };
        if (session.Zone is not ("Etc/UTC" or "UTC")) calendar.AddTimeZone(session.Zone);
        calendar.Events.Add(series);
        return new CalendarSerializer().SerializeToString(calendar)!;
    }

    private static byte[] Bytes(MimeMessage message)
    {
        using var stream = new MemoryStream();
        message.WriteTo(stream);
        return stream.ToArray();
    }
}

/// <summary>What somebody invited reads.</summary>
internal static class JoiningText
{
    /// <summary>Identifies the guest, so that nobody else needs to.</summary>
    public static string LinkFor(Session session, DocketRecord line, string address) => $"{address}/s/{session.Link}/{line.Token}";

    public static string For(Session session, string host, DocketRecord line, MailCause cause, string address, Instant? occurrence)
    {
        var zone = PlanTimes.Zone(session.Zone) ?? TimeZoneInfo.Utc;
        var when = occurrence ?? (session.StartsAt is { } start ? new Instant(start) : null);
        var texts = ServerTexts.In(session.Language);
        var lines = new List<string> { texts.Say("greeting", line.Name), "", texts.Say("what." + CoreJson.NameOf(cause), host, session.Title) };
        if (when is { } at) lines.Add(texts.Say(line.SlotAt is null ? "time" : "time.own", texts.DateAndTime(PlanTimes.Local(at, zone)), session.Zone));
        if ((line.SlotAt is null ? session.Minutes : line.Minutes ?? 15) is { } minutes) lines.Add(texts.Say("length", minutes));
        if (session.Kind == SessionKind.Recurring && cause != MailCause.Cancellation) lines.Add(texts["again"]);
        if (cause == MailCause.Cancellation) return string.Join("\r\n", lines) + "\r\n";
        if (session.Description.Length > 0) lines.AddRange(["", session.Description]);
        lines.AddRange(["", texts["link"], LinkFor(session, line, address)]);
        if (session.PasscodeHash is not null) lines.Add(texts["passcode"]);
        if (cause != MailCause.Reminder) lines.AddRange(["", texts["answer"], $"{address}/answer/{line.Token}"]);
        return string.Join("\r\n", lines) + "\r\n";
    }
}
