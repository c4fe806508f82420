using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace HoldCourt.Store.Migrations
{
    /// <inheritdoc />
    public partial class SlotReminders : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "RemindedFor",
                table: "Docket",
                type: "INTEGER",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "RemindedFor",
                table: "Docket");
        }
    }
}
