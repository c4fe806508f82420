using HoldCourt.Server.Workload;
using HoldCourt.Store;
using Microsoft.AspNetCore.SignalR;

namespace HoldCourt.Server.Live;

/// <summary>A wish that could not be written down is answered so, whatever it failed of on its way to the disk.</summary>
internal sealed class StoreFilter(Supervisor supervisor) : IHubFilter
{
    public async ValueTask<object?> InvokeMethodAsync(HubInvocationContext context, Func<HubInvocationContext, ValueTask<object?>> next)
    {
        try { return await next(context); }
        catch (Exception e) when (context.HubMethod.ReturnType == typeof(Task<Refusal?>) && (StoreFailure.Is(e) || e is OrleansException))
        {
            // Whoever asks again with the same id learns whether it was done all the same.
            supervisor.Note("store", e);
            return new Refusal(Reason.NotStored, Remedy.TryAgain);
        }
    }
}
