using HoldCourt.Server.Mailing;
using HoldCourt.Server.Texts;
using HoldCourt.Store;
using HoldCourt.Store.Planning;
using Ical.Net;
using Ical.Net.DataTypes;
using Calendar = Ical.Net.Calendar;
using Ical.Net.Serialization;
using MimeKit;
using MimeKit.Text;

namespace HoldCourt.Server.Planning;

/// <summary>Why a message goes out.</summary>
public enum MailCause { Invitation, Change, Cancellation, Reminder }

/// <summary>Writes messages to people on the docket into the outbox.</summary>
internal sealed class Mail(Outbox outbox, TimeProvider time)
{
    public static bool IsAddress(string text) =>
        text.Length <= 254 && !text.Contains(' ', StringComparison.Ordinal) && MailboxAddress.TryParse(text, out var mailbox)
            && mailbox.Address == text.Trim()
        && mailbox.Address.Split('@') is [{ Length: > 0 and <= 64 }, var domain] && domain.Contains('.', StringComparison.Ordinal)
            && !domain.StartsWith('.') && !domain.EndsWith('.');

    /// <summary>
    /// Adds one message to each of these; those without an address are left out. They go out when the caller has saved, together
    /// with what they tell of, and has nudged.
    /// </summary>
    /// <returns>How many messages go out.</returns>
    public int Add(CourtDb db, Session session, string host, IEnumerable<DocketRecord> to, MailCause cause, string address,
        Instant? occurrence = null)
    {
        var count = 0;
        foreach (var line in to.Where(line => line.Email is not null))
        {
            using var message = Compose(session, host, line, cause, address, occurrence);
            db.Add(outbox.Row(message, session.OwnerId, session.Id));
            count++;
        }
        return count;
    }

    public void Nudge() => outbox.Nudge();

    private MimeMessage Compose(Session session, string host, DocketRecord line, MailCause cause, string address, Instant? occurrence)
    {
        var message = new MimeMessage
        {
            Subject = ServerTexts.In(session.Language).Say("subject." + CoreJson.NameOf(cause), session.Title),
            Date = time.GetUtcNow()
        };
        message.From.Add(new MailboxAddress(ServerTexts.In(session.Language).Say("from", host), outbox.From));
        message.To.Add(new MailboxAddress(line.Name, line.Email!));
        var text = new TextPart(TextFormat.Plain)
        {
            Text =
            JoiningText.For(session, host, line, cause, address, occurrence ?? (line.SlotAt is { } slot ? new Instant(slot) : null))
        };
        if (session.StartsAt is null && line.SlotAt is null)
        {
            message.Body = text;
            return message;
        }
        var calendar = CalendarFor(session, host, line, cause, address);
        var part = new TextPart("calendar") { Text = calendar, ContentTransferEncoding = ContentEncoding.Base64 };
        part.ContentType.Parameters.Add("method", cause == MailCause.Cancellation ? "CANCEL" : "REQUEST");
        var file = new MimePart("application",
            "ics")
        {
            Content = new MimeContent(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(calendar))),
            ContentTransferEncoding = ContentEncoding.Base64,
            FileName = "session.ics",
            ContentDisposition = new ContentDisposition(ContentDisposition.Attachment)
        };
        message.Body = cause == MailCause.Reminder ? text : new Multipart("mixed") { new MultipartAlternative { text, part }, file };
        return message;
    }

    /// <summary>An iCalendar object by RFC 5545 and the iTIP method of RFC 5546 that fits.</summary>
    private string CalendarFor(Session session, string host, DocketRecord line, MailCause cause, string address)
    {
        var slot = line.SlotAt is not null;
        var series = slot
            ? PlanTimes.Event(new Session
            {
                OwnerId = "",
                Title = session.Title,
                Link = "",
                Orders = "",
                StartsAt = line.SlotAt,
                Minutes = line.Minutes ?? 15,
                Zone = session.Zone
            })
            : PlanTimes.Event(session);
        series.Uid = slot ? $"{session.Id:N}-{line.Id}@hold-court" : $"{session.Id:N}@hold-court";
        series.Sequence = session.Revision;
        series.Description = session.Description;
        series.Url = new Uri(JoiningText.LinkFor(session, line, address));
        series.Status = cause == MailCause.Cancellation ? EventStatus.Cancelled : EventStatus.Confirmed;
        series.DtStamp = new CalDateTime(time.GetUtcNow().UtcDateTime, "UTC", true);
        series.Organizer = new Organizer($"mailto:{outbox.From}") { CommonName = host };
        series.Attendees.Add(new Attendee($"mailto:{line.Email}")
        {
            CommonName = line.Name,
            Rsvp = true,
            ParticipationStatus = EventParticipationStatus.NeedsAction
        });
        var calendar = new Calendar
        {
            Method = cause == MailCause.Cancellation
            ? "CANCEL"
            : "REQUEST",
            ProductId = "-//Hold Court//Planning//EN"
        };
        if (session.Zone is not ("Etc/UTC" or "UTC")) calendar.AddTimeZone(session.Zone);
        calendar.Events.Add(series);
        return new CalendarSerializer().SerializeToString(calendar)!;
    }
}

/// <summary>What somebody invited reads.</summary>
internal static class JoiningText
{
    /// <summary>Identifies the guest, so that nobody else needs to; by the part of the address that no server writes down.</summary>
    public static string LinkFor(Session session, DocketRecord line, string address) => $"{address}/s/{session.Link}#{line.Token}";

    public static string For(Session session, string host, DocketRecord line, MailCause cause, string address, Instant? occurrence)
    {
        var zone = PlanTimes.Zone(session.Zone) ?? TimeZoneInfo.Utc;
        var when = occurrence ?? (session.StartsAt is { } start ? new Instant(start) : null);
        var texts = ServerTexts.In(session.Language);
        var lines = new List<string> { texts.Say("greeting", line.Name), "",
            texts.Say("what." + CoreJson.NameOf(cause), host, session.Title) };
        if (when is { } at)
            lines.Add(texts.Say(line.SlotAt is null ? "time" : "time.own", texts.DateAndTime(PlanTimes.Local(at, zone)), session.Zone));
        if ((line.SlotAt is null ? session.Minutes : line.Minutes ?? 15) is { } minutes) lines.Add(texts.Say("length", minutes));
        if (session.Kind == SessionKind.Recurring && cause != MailCause.Cancellation) lines.Add(texts["again"]);
        if (cause == MailCause.Cancellation) return string.Join("\r\n", lines) + "\r\n";
        if (session.Description.Length > 0) lines.AddRange(["", session.Description]);
        lines.AddRange(["", texts["link"], LinkFor(session, line, address)]);
        if (session.PasscodeHash is not null) lines.Add(texts["passcode"]);
        if (cause != MailCause.Reminder) lines.AddRange(["", texts["answer"], $"{address}/answer#{line.Token}"]);
        return string.Join("\r\n", lines) + "\r\n";
    }
}
