using System.Globalization;
using HoldCourt.Bench;
using HoldCourt.Bench.Soak;

// Figures for docs/performance.md. Each compares with something plain in the same run, since machines are noisy.
// dotnet run -c Release --project bench/HoldCourt.Bench --
//   [core|line|planning|arrivals|fanout|muteall|deaf|relay|pages|recording|restart|exhibits|votes|rooms|roomrelay|floods|all],
//   or fuzz [minutes] [seed], or soak [minutes] [seed] [only]
switch (args.FirstOrDefault() ?? "all")
{
    case "core": CoreBench.Run(); break;
    case "line": LineBench.Run(); break;
    case "muteall": await MuteAllBench.Run(); break;
    case "fanout": await FanOutBench.Run(); break;
    case "relay": await RelayBench.Run(); break;
    case "recording":
        await ComposeBench.Run();
        await RelayBench.WhileRecording(10, 50);
        break;
    case "pages": await RelayBench.WhilePagesAreMade(8, 50); break;
    case "deaf": await DeafBench.Run(); break;
    case "restart": await RestartBench.Run(); break;
    case "planning": await PlanningBench.Run(); break;
    case "exhibits": await ExhibitBench.Run(); break;
    case "fuzz":
        await PageFuzz.Run(double.Parse(args.ElementAtOrDefault(1) ?? "10", CultureInfo.InvariantCulture),
            int.Parse(args.ElementAtOrDefault(2) ?? "1", CultureInfo.InvariantCulture));
        break;
    case "roomrelay": await RelayBench.InRooms(); break;
    case "rooms":
        RoomBench.Run();
        await OpenRoomsBench.Run();
        await RelayBench.InRooms();
        break;
    case "soak":
        await SoakBench.Run(double.Parse(args.ElementAtOrDefault(1) ?? "30", CultureInfo.InvariantCulture),
            int.Parse(args.ElementAtOrDefault(2) ?? "1", CultureInfo.InvariantCulture), args.ElementAtOrDefault(3));
        break;
    case "floods": await FloodBench.Run(); break;
    case "votes": await VoteBench.Run(); break;
    case "arrivals": await ArrivalBench.Run(); break;
    case "all":
        CoreBench.Run();
        RoomBench.Run();
        LineBench.Run();
        await PlanningBench.Run();
        await ArrivalBench.Run();
        await RestartBench.Run();
        await FanOutBench.Run();
        await MuteAllBench.Run();
        await VoteBench.Run();
        await OpenRoomsBench.Run();
        await DeafBench.Run();
        await ExhibitBench.Run();
        await RelayBench.Run();
        break;
    // Makes a data folder with a large sitting for bench/browser.mjs, and says its link.
    case "fill": Console.WriteLine(await BigSitting.Fill(args[1])); break;
    // What the benchmarks start as processes of their own.
    case "bare": await BareServer.Run(args[1]); break;
    case "flood": await FloodBench.Flood(args[1], new Uri(args[2]), args[3]); break;
    case "load": await RelayLoad.Run(args[1]); break;
    default:
        Console.WriteLine("core, line, planning, arrivals, fanout, muteall, deaf, relay, pages, recording, restart, exhibits, "
            + "votes, rooms, roomrelay, floods, fuzz, soak or all");
        return 2;
}
return 0;
