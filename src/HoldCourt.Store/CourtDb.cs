using HoldCourt.Store.Accounts;
using HoldCourt.Store.Files;
using HoldCourt.Store.Ledger;
using HoldCourt.Store.Planning;
using HoldCourt.Store.Polls;
using HoldCourt.Store.Recording;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;

namespace HoldCourt.Store;

/// <summary>The database: accounts, planned sessions, sittings and their entries.</summary>
public sealed class CourtDb(DbContextOptions<CourtDb> options) : IdentityUserContext<Account>(options)
{
    public DbSet<Session> Sessions => Set<Session>();
    public DbSet<SittingRecord> Sittings => Set<SittingRecord>();
    public DbSet<DocketRecord> Docket => Set<DocketRecord>();
    public DbSet<Contact> Contacts => Set<Contact>();
    public DbSet<Preset> Presets => Set<Preset>();
    public DbSet<Paper> Papers => Set<Paper>();
    public DbSet<OutboxMessage> Outbox => Set<OutboxMessage>();
    public DbSet<EntryRecord> Entries => Set<EntryRecord>();
    public DbSet<BallotRecord> Ballots => Set<BallotRecord>();
    public DbSet<SnapshotRecord> Snapshots => Set<SnapshotRecord>();
    public DbSet<FileRecord> Files => Set<FileRecord>();
    public DbSet<MarkRecord> Marks => Set<MarkRecord>();
    public DbSet<RecordingRecord> Recordings => Set<RecordingRecord>();
    public DbSet<FilmRecord> Films => Set<FilmRecord>();
    public DbSet<CorrectedLine> CorrectedLines => Set<CorrectedLine>();
    public DbSet<RecordingLink> RecordingLinks => Set<RecordingLink>();
    public DbSet<SignInRecord> SignIns => Set<SignInRecord>();
    public DbSet<UsedCodeRecord> UsedCodes => Set<UsedCodeRecord>();
    public DbSet<HostInvitation> Invitations => Set<HostInvitation>();
    public DbSet<CoOwner> CoOwners => Set<CoOwner>();

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.Entity<IdentityUserPasskey<string>>(passkey =>
        {
            passkey.ToTable("Passkeys");
            passkey.HasKey(p => p.CredentialId);
            passkey.Property(p => p.CredentialId).HasMaxLength(1_024);
            passkey.OwnsOne(p => p.Data).ToJson();
            passkey.HasOne<Account>().WithMany().HasForeignKey(p => p.UserId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<SignInRecord>(record =>
        {
            record.HasOne<Account>().WithMany().HasForeignKey(r => r.AccountId).OnDelete(DeleteBehavior.Cascade);
            record.HasIndex(r => r.AccountId);
        });
        builder.Entity<UsedCodeRecord>(code =>
        {
            code.HasKey(c => new { c.AccountId, c.Digest });
            code.HasOne<Account>().WithMany().HasForeignKey(c => c.AccountId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<HostInvitation>(invitation =>
        {
            invitation.HasIndex(i => i.TokenHash).IsUnique();
            invitation.HasOne<Account>().WithMany().HasForeignKey(i => i.ById).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<CoOwner>(owner =>
        {
            owner.HasKey(o => new { o.SessionId, o.AccountId });
            owner.HasOne<Session>().WithMany(s => s.CoOwners).HasForeignKey(o => o.SessionId).OnDelete(DeleteBehavior.Cascade);
            owner.HasOne<Account>().WithMany().HasForeignKey(o => o.AccountId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<Session>(session =>
        {
            session.HasIndex(s => s.Link).IsUnique();
            session.HasOne<Account>().WithMany().HasForeignKey(s => s.OwnerId).OnDelete(DeleteBehavior.Cascade);
            session.Property(s => s.Title).HasMaxLength(Session.LongestTitle);
        });
        builder.Entity<DocketRecord>(line =>
        {
            line.HasOne(l => l.Session).WithMany(s => s.Docket).HasForeignKey(l => l.SessionId).OnDelete(DeleteBehavior.Cascade);
            line.HasIndex(l => l.Token).IsUnique();
        });
        builder.Entity<Contact>(contact =>
        {
            contact.HasOne<Account>().WithMany().HasForeignKey(c => c.OwnerId).OnDelete(DeleteBehavior.Cascade);
            contact.HasIndex(c => new { c.OwnerId, c.Name });
        });
        builder.Entity<Preset>().HasOne<Account>().WithMany().HasForeignKey(p => p.OwnerId).OnDelete(DeleteBehavior.Cascade);
        builder.Entity<Paper>().HasOne<Session>().WithMany().HasForeignKey(p => p.SessionId).OnDelete(DeleteBehavior.Cascade);
        builder.Entity<OutboxMessage>(message =>
        {
            message.HasOne<Account>().WithMany().HasForeignKey(m => m.OwnerId).OnDelete(DeleteBehavior.Cascade);
            message.HasOne<Session>().WithMany().HasForeignKey(m => m.SessionId).OnDelete(DeleteBehavior.SetNull);
            message.HasIndex(m => new { m.OwnerId, m.At });
            // Few messages wait; the worker looks for them often.
            message.HasIndex(m => m.NextAt).HasFilter("State = 1");
        });
        builder.Entity<SittingRecord>(sitting =>
        {
            sitting.HasOne(s => s.Session).WithMany(s => s.Sittings).HasForeignKey(s => s.SessionId).OnDelete(DeleteBehavior.Cascade);
            // A session runs once at a time.
            sitting.HasIndex(s => s.SessionId).IsUnique().HasFilter("AdjournedAt IS NULL");
        });
        builder.Entity<EntryRecord>(entry =>
        {
            entry.HasKey(e => new { e.SittingId, e.Sequence });
            entry.HasOne<SittingRecord>().WithMany().HasForeignKey(e => e.SittingId).OnDelete(DeleteBehavior.Cascade);
            entry.Property(e => e.Topic).HasConversion<string>();
            entry.HasIndex(e => new { e.SittingId, e.Message }).HasFilter("Message IS NOT NULL");
        });
        builder.Entity<BallotRecord>(ballot =>
        {
            ballot.HasKey(b => new { b.SittingId, b.Poll, b.Key });
            ballot.HasOne<SittingRecord>().WithMany().HasForeignKey(b => b.SittingId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<FileRecord>(file =>
        {
            file.HasOne<SittingRecord>().WithMany().HasForeignKey(f => f.SittingId).OnDelete(DeleteBehavior.Cascade);
            file.HasIndex(f => f.SittingId);
        });
        builder.Entity<MarkRecord>(mark =>
        {
            mark.HasKey(m => new { m.SittingId, m.Exhibit, m.Sequence });
            mark.HasOne<SittingRecord>().WithMany().HasForeignKey(m => m.SittingId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<RecordingRecord>(recording =>
        {
            recording.HasOne<SittingRecord>().WithMany().HasForeignKey(r => r.SittingId).OnDelete(DeleteBehavior.Cascade);
            recording.HasIndex(r => new { r.SittingId, r.Number }).IsUnique();
            recording.Property(r => r.Name).HasMaxLength(RecordingRecord.LongestName);
            recording.Property(r => r.Shelf).HasMaxLength(RecordingRecord.LongestShelf);
            recording.Property(r => r.Watchers).HasConversion<string>();
        });
        builder.Entity<FilmRecord>(film =>
        {
            film.HasOne(f => f.Recording).WithMany().HasForeignKey(f => f.RecordingId).OnDelete(DeleteBehavior.Cascade);
            film.Property(f => f.Framing).HasConversion<string>();
            film.Property(f => f.State).HasConversion<string>();
        });
        builder.Entity<CorrectedLine>(line =>
        {
            line.HasKey(l => new { l.RecordingId, l.Line });
            line.Property(l => l.Text).HasMaxLength(CaptionLine.LongestText);
            line.HasOne<RecordingRecord>().WithMany().HasForeignKey(l => l.RecordingId).OnDelete(DeleteBehavior.Cascade);
        });
        builder.Entity<RecordingLink>(link =>
        {
            link.HasOne<RecordingRecord>().WithMany().HasForeignKey(l => l.RecordingId).OnDelete(DeleteBehavior.Cascade);
            link.HasIndex(l => l.SecretHash).IsUnique();
        });
        builder.Entity<SnapshotRecord>(snapshot =>
        {
            snapshot.HasKey(s => s.SittingId);
            snapshot.HasOne<SittingRecord>().WithMany().HasForeignKey(s => s.SittingId).OnDelete(DeleteBehavior.Cascade);
        });
    }
}
