using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace HoldCourt.Store.Migrations
{
    /// <inheritdoc />
    public partial class DoorByName : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "DoorByName",
                table: "Sessions",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "DoorByName",
                table: "Sessions");
        }
    }
}
