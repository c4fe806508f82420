using HoldCourt.Store.Accounts;
using HoldCourt.Store.Ledger;
using HoldCourt.Store.Planning;
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

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
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
            message.HasIndex(m => new { m.OwnerId, m.At });
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
        });
    }
}
