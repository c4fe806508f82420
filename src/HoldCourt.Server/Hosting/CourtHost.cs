using System.Net;
using System.Net.Sockets;
using HoldCourt.Server.Captions;
using HoldCourt.Server.Accounts;
using HoldCourt.Server.Api;
using HoldCourt.Server.Demo;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Handouts;
using HoldCourt.Server.Lending;
using HoldCourt.Server.Live;
using HoldCourt.Server.Mailing;
using HoldCourt.Server.Media;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Polls;
using HoldCourt.Server.Recording;
using HoldCourt.Server.Recording.Films;
using HoldCourt.Server.Security;
using HoldCourt.Server.StandIns.Extras;
using HoldCourt.Server.Topics;
using HoldCourt.Server.Upkeep;
using HoldCourt.Server.Workload;
using HoldCourt.Store;
using Microsoft.AspNetCore.Http.Connections;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.Server.Kestrel.Transport.Sockets;
using OpenTelemetry;
using HoldCourt.Server.Sittings;
using HoldCourt.Server.Admission;
using HttpProtocols = Microsoft.AspNetCore.Server.Kestrel.Core.HttpProtocols;

namespace HoldCourt.Server.Hosting;

/// <summary>Puts the server together.</summary>
internal static class CourtHost
{
    /// <summary>The kernel's send buffer hides how far behind a slow receiver is; a small one shows it soon.</summary>
    private const int SendBuffer = 64 * 1024;

    /// <summary>The folder of the database and the keys.</summary>
    public static string FolderOf(string[] args) =>
        FolderOf(new ConfigurationBuilder().AddEnvironmentVariables().AddCommandLine(args).Build());

    /// <inheritdoc cref="FolderOf(string[])"/>
    public static string FolderOf(IConfiguration configuration) => Path.GetFullPath(configuration["Data:Folder"] ?? "data");

    /// <summary>Looks whether the folder and the database can be used, so that
    /// what is wrong is said in a sentence and nothing has started yet.</summary>
    public static void Check(string[] args)
    {
        var folder = FolderOf(args);
        Directory.CreateDirectory(folder);
        using (File.Create(Path.Combine(folder, $".writable-{Guid.NewGuid():N}"), 1, FileOptions.DeleteOnClose)) { }
        StoreSetup.Check(Path.Combine(folder, DatabaseFile));
    }

    private const string DatabaseFile = BackupFile.DatabaseName;

    /// <param name="change">Puts other services in place of the usual ones, as tests do with the clock.</param>
    public static WebApplication Build(string[] args, Action<IServiceCollection>? change = null)
    {
        var builder = WebApplication.CreateBuilder(new WebApplicationOptions { Args = args, ContentRootPath = ContentRoot() });
        // At finer levels it writes down what people send, a vote in secret and a message between two among it.
        builder.Logging.AddFilter("Microsoft.AspNetCore.SignalR", LogLevel.Information);
        var data = FolderOf(builder.Configuration);
        Directory.CreateDirectory(data);

        builder.Services.AddSingleton<TimeProvider>(new SteadyTime(TimeProvider.System));
        builder.AddNodes(data, DatabaseFile);
        builder.Services.AddWorkload();
        builder.Services.AddAccounts();
        builder.Services.AddSecurity();
        builder.AddProxy();
        builder.Services.ConfigureHttpJsonOptions(options => CoreJson.Configure(options.SerializerOptions));
        builder.Services.AddSignalR(options =>
        {
            options.EnableDetailedErrors = false;
            options.AddFilter<StoreFilter>();
            // A message that is far too long is refused in words, and not by closing the line.
            options.MaximumReceiveMessageSize = 1024 * 1024;
        }).AddJsonProtocol(options => CoreJson.Configure(options.PayloadSerializerOptions));
        builder.Services.AddOpenApi();
        builder.Services.AddProblemDetails(options => options.CustomizeProblemDetails = Problems.GiveReason);
        builder.Services.AddHealthChecks();
        builder.Services.AddResponseCompression(options => options.EnableForHttps = true);
        builder.Services.Configure<HostOptions>(options => options.ServicesStartConcurrently = true);
        builder.Services.AddSingleton<Preparation>().AddHostedService(services => services.GetRequiredService<Preparation>());
        builder.Services.Configure<MediaOptions>(builder.Configuration.GetSection("Media"));
        builder.Services.AddSingleton<Taps>().AddSingleton<ITaps>(services => services.GetRequiredService<Taps>())
            .AddHostedService(services => services.GetRequiredService<Taps>());
        builder.Services.Configure<RecordingOptions>(builder.Configuration.GetSection("Recording"))
            .AddSingleton<RecordingRegister>().AddHostedService(services => services.GetRequiredService<RecordingRegister>())
            .AddSingleton<Watching>().AddSingleton<Library>().AddSingleton<FilmLetters>()
            .AddSingleton<CaptionedFilms>().AddSingleton<FilmWorks>()
            .AddHostedService(services => services.GetRequiredService<FilmWorks>());
        builder.Services.AddSingleton<IRecogniser, SphinxRecogniser>().AddSingleton<SpeechToText>()
            .AddSingleton(services => new Lazy<IGrainFactory>(services.GetRequiredService<IGrainFactory>));
        builder.Services.AddSingleton<Stages>().AddHostedService(services => services.GetRequiredService<Stages>());
        builder.Services.AddSingleton<IRelay>(services => services.GetRequiredService<Stages>()).AddSingleton<RunningSittings>();
        builder.Services.AddSingleton<MediaTickets>().AddSingleton<MediaSocket>();
        builder.Services.AddSingleton<StoreFilter>().AddSingleton<PageBuild>();
        builder.Services.AddSingleton<Lines>().AddSingleton<HubLifetimeManager<LiveHub>>(services => services.GetRequiredService<Lines>());
        builder.Services.AddSingleton<BallotBoxes>().AddHostedService<BoxCounting>();
        builder.Services.AddSingleton<DoorBell>().AddSingleton<Broadcast>().AddTopics().AddSingleton<SittingLoader>();
        builder.Services.AddHttpContextAccessor().AddScoped<Desk>().AddSingleton<PublicAddress>().AddSingleton<Outbox>()
            .AddSingleton<Mail>().AddSingleton<NextTimes>();
        builder.Services.Configure<FileBounds>(builder.Configuration.GetSection("Files"));
        builder.Services.AddSingleton<IFileScan, FileScan>().AddSingleton<PaperKeeping>().AddSingleton<Agents>().AddSingleton<KeptFiles>()
            .AddSingleton<DiskRoom>()
            .AddSingleton<Bringing>().AddSingleton<PageStore>()
            .AddHostedService(services => services.GetRequiredService<PageStore>());
        builder.Services.Configure<MailOptions>(builder.Configuration.GetSection("Mail"));
        builder.Services.Configure<RetentionOptions>(builder.Configuration.GetSection("Retention"))
            .Configure<BackupOptions>(builder.Configuration.GetSection("Backup"));
        builder.Services.AddSingleton<Rounds>().AddHostedService(services => services.GetRequiredService<Rounds>());
        builder.Services.AddSingleton<HouseState>().AddHostedService(services => services.GetRequiredService<HouseState>());
        builder.Services.AddSingleton<Postman>().AddHostedService(services => services.GetRequiredService<Postman>());
        builder.Services.AddSingleton<Reminders>().AddHostedService(services => services.GetRequiredService<Reminders>());
        builder.Services.AddScoped<Doorstep>().AddSingleton<Opening>().AddScoped<DemoData>().AddSingleton<DemoRecording>();
        builder.Services.Configure<ExtrasOptions>(builder.Configuration.GetSection("Extras"));
        builder.Services.AddSingleton(_ => new Lazy<ClipLibrary>(() => new ClipLibrary()));
        builder.Services.AddSingleton<MadeUpDesks>()
            .AddSingleton<Troupe>().AddHostedService(services => services.GetRequiredService<Troupe>());
        builder.WebHost.ConfigureKestrel(options =>
        {
            options.AddServerHeader = false;
            options.Limits.MaxRequestBodySize = 1024 * 1024;
            // Each socket has a connection of its own: pictures must not stand in the way of orders.
            options.ConfigureEndpointDefaults(endpoint => endpoint.Protocols = HttpProtocols.Http1);
            if (builder.Configuration.GetValue("Https:OwnCertificate", false))
                options.ConfigureHttpsDefaults(https => https.ServerCertificate = OwnCertificate.For(data, TimeProvider.System));
        });
        builder.WebHost.UseSockets(options => options.CreateBoundListenSocket = Listen);
        AddTelemetry(builder);
        change?.Invoke(builder.Services);
        return Map(builder.Build());
    }

    private static WebApplication Map(WebApplication app)
    {
        var ready = app.Services.GetRequiredService<Preparation>();
        app.Use(async (http, next) =>
        {
            await ready.Ready;
            await next(http);
        });
        app.UseTurns("/live", "/media", "/agent");
        app.UseForwarded();
        app.UseExceptionHandler(new ExceptionHandlerOptions
        {
            StatusCodeSelector = failure =>
            failure is BadHttpRequestException bad ? bad.StatusCode : StatusCodes.Status500InternalServerError
        });
        app.UseStatusCodePages();
        app.UseBusy();
        app.UseSecurity();
        app.UseResponseCompression();
        app.UseStaticFiles(new StaticFileOptions
        {
            OnPrepareResponse = context => context.Context.Response.Headers.CacheControl =
                context.Context.Request.Path.StartsWithSegments("/assets") ? "public, max-age=31536000, immutable" : "no-cache"
        });
        app.UseRouting();
        app.UseAuthentication();
        app.UseCsrfToken();
        app.UseRateLimiter();
        app.UseAuthorization();
        app.UseWebSockets();
        var api = app.MapGroup("/api").AddEndpointFilter<BodyBounds>();
        api.MapAccount();
        api.MapOwnAccount();
        api.MapHouse();
        api.MapOwners();
        api.MapSessions();
        api.MapPlans();
        api.MapDocket();
        api.MapContacts();
        api.MapOutbox();
        api.MapPapers();
        api.MapDoor();
        api.MapSittings();
        api.MapRooms();
        api.MapFiles();
        api.MapExhibits();
        api.MapHandouts();
        api.MapAgents();
        api.MapRecordings();
        api.MapPageFailures();
        api.Map("/{**rest}", () => Problems.Of("noSuchAddress", 404));
        app.MapHub<LiveHub>("/live", options => options.Transports = HttpTransportType.WebSockets);
        app.Map("/agent", (HttpContext http, Agents agents) => agents.Serve(http));
        app.Map("/media", (HttpContext http, MediaSocket media) => media.Serve(http));
        app.MapHealthChecks("/health");
        app.MapOpenApi().RequireAuthorization();
        app.MapOldLinks();
        app.MapFallbackToFile("index.html");
        return app;
    }

    private static void AddTelemetry(WebApplicationBuilder builder)
    {
        var telemetry = builder.Services.AddOpenTelemetry()
            .WithMetrics(metrics => metrics.AddMeter(MediaMeter.Name, HouseState.MeterName, Supervisor.MeterName,
            "Microsoft.AspNetCore.Hosting",
            "Microsoft.AspNetCore.Server.Kestrel", "Microsoft.Orleans"))
            .WithTracing(tracing => tracing.AddSource("Microsoft.AspNetCore", "Microsoft.Orleans.Application"));
        if (builder.Configuration["OTEL_EXPORTER_OTLP_ENDPOINT"] is not null) telemetry.UseOtlpExporter();
    }

    private static Socket Listen(EndPoint endpoint)
    {
        var socket = SocketTransportOptions.CreateDefaultBoundListenSocket(endpoint);
        socket.SendBufferSize = SendBuffer;
        return socket;
    }

    /// <summary>The folder that holds wwwroot: beside the program when published, the project's own otherwise.</summary>
    private static string ContentRoot()
    {
        for (var folder = AppContext.BaseDirectory; folder is not null; folder = Path.GetDirectoryName(folder))
        {
            if (Directory.Exists(Path.Combine(folder, "wwwroot"))) return folder;
            var source = Path.Combine(folder, "src", "HoldCourt.Server");
            if (Directory.Exists(source)) return source;
        }
        return AppContext.BaseDirectory;
    }
}
