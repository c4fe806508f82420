using HoldCourt.Server.Hosting;
using HoldCourt.Server.Mailing;
using HoldCourt.Server.Texts;
using HoldCourt.Store;
using HoldCourt.Store.Recording;
using Microsoft.EntityFrameworkCore;
using MimeKit;

namespace HoldCourt.Server.Recording.Films;

/// <summary>Tells those whose session it was that a film is ready, or why it is not.</summary>
internal sealed class FilmLetters(Outbox outbox, PublicAddress address, TimeProvider time)
{
    /// <summary>Rows of the outbox, to be saved with what they tell of.</summary>
    public async Task Add(CourtDb db, RecordingRecord recording, FilmRecord film)
    {
        if (await db.Sittings.Where(sitting => sitting.Id == recording.SittingId)
            .Select(sitting => new
            {
                sitting.Session!.OwnerId,
                sitting.Session.Id,
                sitting.Session.Language,
                CoOwners = sitting.Session.CoOwners.Select(owner => owner.AccountId).ToList()
            }).FirstOrDefaultAsync() is not { } session)
            return;
        var texts = ServerTexts.In(session.Language);
        var key = film.State == FilmState.Ready ? "film.ready" : "film.failed";
        foreach (var owner in await db.Users.Where(user => user.Id == session.OwnerId || session.CoOwners.Contains(user.Id)).ToListAsync())
        {
            if (owner.Email is null) continue;
            using var message = new MimeMessage { Subject = texts.Say(key + ".subject", recording.Name), Date = time.GetUtcNow() };
            message.From.Add(new MailboxAddress("Hold Court", outbox.From));
            message.To.Add(new MailboxAddress(owner.Name, owner.Email));
            message.Body = new TextPart("plain")
            {
                Text = string.Join("\r\n", [texts.Say("greeting", owner.Name), "", texts.Say(key, recording.Name), "",
                    $"{address.OfHouse}/recordings/{recording.Id}", ""])
            };
            db.Add(outbox.Row(message, owner.Id, session.Id));
        }
    }

    public void Nudge() => outbox.Nudge();
}
