using Microsoft.AspNetCore.Http.Metadata;

namespace HoldCourt.Server.Api;

/// <summary>Every body that is sent is bounded before any endpoint looks at it.</summary>
internal sealed class BodyBounds : IEndpointFilter
{
    public ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var body = context.HttpContext.GetEndpoint()?.Metadata.GetMetadata<IAcceptsMetadata>()?.RequestType;
        if (body is not null)
            foreach (var argument in context.Arguments)
                if (argument is not null && body.IsInstanceOfType(argument) && Bounds.Refuses(argument) is { } refusal)
                    return ValueTask.FromResult<object?>(Problems.Of(refusal.Reason.Name, StatusCodes.Status400BadRequest));
        return next(context);
    }
}
