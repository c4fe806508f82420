namespace HoldCourt.Core.Orders
{
    public sealed partial class Capability
    {
        public static Capability Exhibit { get; } = OfOrder(
            Order.Exhibit, new Refusal(Reason.ExhibitsNotAllowed, Remedy.AskBench), orBy: seat => seat.ShowsOnce);

        /// <summary>Shows, takes down and closes what others brought.</summary>
        public static Capability KeepExhibits { get; } = OfTheBench();
    }
}

namespace HoldCourt.Core.Sittings
{
    public readonly partial record struct Reason
    {
        public static Reason ExhibitsNotAllowed { get; } = New();
        public static Reason NoSuchExhibit { get; } = New();
        public static Reason NotYourExhibit { get; } = New();
        public static Reason NothingShown { get; } = New();
        public static Reason ScreenIsOpen { get; } = New();
        public static Reason NoScreenOpen { get; } = New();
        public static Reason ShelfFull { get; } = New();
        public static Reason TooManyScreens { get; } = New();
        public static Reason NoPages { get; } = New();
        public static Reason NoSuchPage { get; } = New();
        public static Reason PagesNotThere { get; } = New();
        public static Reason PagingWithAnother { get; } = New();
        public static Reason PagingUnseen { get; } = New();
        public static Reason NoSheet { get; } = New();
        public static Reason SheetFull { get; } = New();
        public static Reason MayShowAlready { get; } = New();
    }
}
