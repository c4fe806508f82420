using HoldCourt.Server.Hosting;
using HoldCourt.Server.Mailing;
using HoldCourt.Server.Texts;
using HoldCourt.Store;
using HoldCourt.Store.Planning;
using Microsoft.EntityFrameworkCore;
using MimeKit;

namespace HoldCourt.Server.Accounts;

/// <summary>What the house writes to those who have an account, or are to have one.</summary>
internal enum HouseLetter { Join, Reset, Confirm, AddressMoves, PasswordChanged, SecondOff, SecondOn, PasskeyAdded }

/// <summary>
/// The house's own messages. Those with a link that opens an account are kept without their text once they have gone out; as
/// long as no mail server is named, the keeper finds them in the outbox and hands them on.
/// </summary>
internal sealed class HouseMail(IDbContextFactory<CourtDb> databases, Outbox outbox, PublicAddress address, TimeProvider time)
{
    /// <param name="link">The path and fragment of a link that opens something; null when the message only tells.</param>
    public async Task Send(HouseLetter letter, string to, string name, string language, string? link = null, params object[] more)
    {
        await using var db = await databases.CreateDbContextAsync();
        db.Add(Row(letter, to, name, language, link, more));
        await db.SaveChangesAsync();
        outbox.Nudge();
    }

    public OutboxMessage Row(HouseLetter letter, string to, string name, string language, string? link = null, params object[] more)
    {
        var texts = ServerTexts.In(language);
        var key = "house." + CoreJson.NameOf(letter);
        using var message = new MimeMessage { Subject = texts[key + ".subject"], Date = time.GetUtcNow() };
        message.From.Add(new MailboxAddress("Hold Court", outbox.From));
        message.To.Add(new MailboxAddress(name, to));
        var lines = new List<string> { name.Length > 0
            ? texts.Say("greeting", name)
            : texts["house.greeting"], "", texts.Say(key, [address.OfHouse, .. more]) };
        if (link is not null)
            lines.AddRange(["", address.OfHouse + link, "",
            texts.Say(letter == HouseLetter.Join ? "house.joinHolds" : "house.holds", (int)AccountsSetup.LinksHold.TotalHours),
            texts["house.notYou"]]);
        message.Body = new TextPart("plain") { Text = string.Join("\r\n", lines) + "\r\n" };
        return outbox.Row(message, owner: null, secret: link is not null);
    }

    /// <summary>Messages reach those they are for; otherwise the keeper reads them.</summary>
    public bool IsDelivered => outbox.HasServer;

    public void Nudge() => outbox.Nudge();
}
