using System.Net;
using System.Net.Sockets;
using HoldCourt.Server.Live;
using HoldCourt.Store;
using Microsoft.AspNetCore.DataProtection;
using Orleans.Configuration;
using Orleans.Serialization;
using Orleans.Serialization.Cloning;
using HoldCourt.Server.Polls;

namespace HoldCourt.Server.Hosting;

/// <summary>
/// The one place that says how the processes of a server find each other, where they keep what all of them must know, and where the
/// keys of cookies lie. All of it is chosen by the settings below <c>Nodes</c>. So far there is one choice each: everything within one
/// process and one folder. Nothing else in the server may assume that there is one process only; what one process alone knows
/// (<see cref="Lines"/>, the stages, limits) belongs to the sittings whose grains are in it.
/// </summary>
internal static class Nodes
{
    public static void AddNodes(this WebApplicationBuilder builder, string folder, string databaseFile)
    {
        Choose(builder.Configuration, "Nodes:Cluster", ("embedded", () => Embedded(builder)));
        Choose(builder.Configuration, "Nodes:Store", ("sqlite", () =>
            builder.Services.AddStore(Path.Combine(folder, databaseFile), builder.Configuration.GetValue("Data:Pooling", true))));
        Choose(builder.Configuration, "Nodes:Keys", ("folder", () =>
        {
            builder.Services.AddDataProtection().SetApplicationName("HoldCourt")
                .PersistKeysToFileSystem(new DirectoryInfo(Path.Combine(folder, "keys")));
            builder.Services.AddSingleton(new BoxKeys(Path.Combine(folder, "boxes")));
        }
        ));
    }

    /// <summary>The first is the usual one.</summary>
    private static void Choose(ConfigurationManager configuration, string setting, params (string Name, Action Take)[] choices)
    {
        var wished = configuration[setting] ?? choices[0].Name;
        if (Array.Find(choices, choice => choice.Name.Equals(wished, StringComparison.OrdinalIgnoreCase)) is not { Take: { } take })
            throw new SettingException($"{setting} is “{wished}”. It can be {string.Join(" or ", choices.Select(choice => choice.Name))}.");
        take();
    }

    private static void Embedded(WebApplicationBuilder builder) => builder.UseOrleans(silo =>
    {
        // A cluster of its own for each process, on free ports of this machine.
        silo.UseLocalhostClustering(FreePort(), FreePort(), serviceId: "hold-court", clusterId: Guid.NewGuid().ToString("N"));
        // Longer than the longest wait for the disk, so that what was done is not answered with an error.
        silo.Configure<SiloMessagingOptions>(options => options.ResponseTimeout = TimeSpan.FromMinutes(2));
        silo.Configure<ClusterMembershipOptions>(options => options.NumMissedProbesLimit = 10);
        silo.Services.AddSingleton<IGeneralizedCopier, AsTheyAre>();
        silo.Services.AddSerializer(serializer => serializer.AddJsonSerializer(IsOurs, _ => false,
            options => options.Configure(json => json.SerializerOptions = CoreJson.Options)));
    });

    /// <summary>A value of this program, which may go from one grain to another.</summary>
    private static bool IsOurs(Type type) =>
        type.Namespace is { } name && name.StartsWith("HoldCourt.", StringComparison.Ordinal) && !type.IsAssignableTo(typeof(IAddressable));

    /// <summary>What goes between grains of one process is immutable, so nobody needs a copy; a test holds that it is.</summary>
    private sealed class AsTheyAre : IGeneralizedCopier
    {
        public bool IsSupportedType(Type type) => IsOurs(type);

        public object? DeepCopy(object? input, CopyContext context) => input;
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
