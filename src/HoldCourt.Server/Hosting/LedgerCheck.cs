using HoldCourt.Store;
using HoldCourt.Store.Ledger;

namespace HoldCourt.Server.Hosting;

/// <summary>The command <c>ledger verify</c>: checks the chain of digests of every sitting.</summary>
internal static class LedgerCheck
{
    /// <returns>0 when every chain is whole, 1 otherwise.</returns>
    public static async Task<int> Run(EntryReader reader, IServiceProvider services)
    {
        await StoreSetup.Migrate(services);
        var (sittings, broken) = (0, 0);
        await foreach (var (sitting, title, entries, erased, firstBreak) in reader.Verify())
        {
            sittings++;
            if (firstBreak is null)
                Console.WriteLine($"whole   {sitting:N}  {title}: {entries} "
                    + $"entries{(erased > 0 ? $", {erased} with something erased" : "")}");
            else
            {
                broken++;
                Console.WriteLine($"BROKEN  {sitting:N}  {title}: entry {firstBreak} of {entries} was altered, or one before it is "
                    + "missing or out of order");
            }
        }
        Console.WriteLine($"{sittings} sittings checked, {broken} broken.");
        return broken == 0 ? 0 : 1;
    }
}
