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
