using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace HoldCourt.Store.Migrations
{
    /// <inheritdoc />
    public partial class Polls : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Polls",
                table: "Sessions",
                type: "TEXT",
                nullable: false,
                defaultValue: "[]");

            // Without row ids, which would tell in which order the ballots came: the model has no word for it.
            migrationBuilder.Sql("""
                CREATE TABLE "Ballots" (
                    "SittingId" TEXT NOT NULL,
                    "Poll" INTEGER NOT NULL,
                    "Key" BLOB NOT NULL,
                    "Sealed" BLOB NOT NULL,
                    CONSTRAINT "PK_Ballots" PRIMARY KEY ("SittingId", "Poll", "Key"),
                    CONSTRAINT "FK_Ballots_Sittings_SittingId" FOREIGN KEY ("SittingId") REFERENCES "Sittings" ("Id") ON DELETE CASCADE
                ) WITHOUT ROWID;
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Ballots");

            migrationBuilder.DropColumn(
                name: "Polls",
                table: "Sessions");
        }
    }
}
