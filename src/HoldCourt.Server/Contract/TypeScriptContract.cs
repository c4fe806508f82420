using System.Collections.Immutable;
using System.Reflection;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using HoldCourt.Server.Api;
using HoldCourt.Server.Chat;
using HoldCourt.Server.CommandLine;
using HoldCourt.Server.Exhibits;
using HoldCourt.Server.Ledger;
using HoldCourt.Server.Media;
using HoldCourt.Server.Planning;
using HoldCourt.Server.Upkeep;
using HoldCourt.Server.Lending;
using HoldCourt.Server.Signs;
using HoldCourt.Server.Sittings;

namespace HoldCourt.Server.Contract;

/// <summary>Writes the TypeScript types of everything that crosses to the browser from the C# types themselves.</summary>
public static class TypeScriptContract
{
    private static readonly Type[] _roots =
    [
        typeof(SeatCommand), typeof(Refusal), typeof(Joined), typeof(WholeView), typeof(ViewChange), typeof(MeRow), typeof(OutlookRow),
        typeof(Me), typeof(SignIn),
        typeof(SessionCard), typeof(OpenNow), typeof(OpenedSitting), typeof(DoorPage), typeof(AnnounceWish), typeof(Announcement),
        typeof(FromBrowser), typeof(ToBrowser),
        typeof(Plan), typeof(KeptPlan), typeof(NewCode), typeof(PresetRow), typeof(Mailed), typeof(SlotRow), typeof(DocketPage),
        typeof(PastedText), typeof(ReadDocket), typeof(ReadRooms), typeof(InviteWish), typeof(CallIn), typeof(CalledIn),
        typeof(AnswerPage), typeof(AnswerWish), typeof(ContactRow), typeof(ContactImport), typeof(OutboxRow), typeof(OutboxPage),
        typeof(PaperRow),
        typeof(ForesightRow), typeof(ReadingRow), typeof(NamedPreset), typeof(LedgerWish), typeof(LedgerPage), typeof(ChatWish),
        typeof(ChatPage), typeof(PersonRow), typeof(GonePage), typeof(TroubleRow), typeof(SignRow), typeof(LedgerCheckRow),
        typeof(SignedIn), typeof(SecondStep), typeof(PasskeyProof), typeof(SetUpWish), typeof(ResetWish), typeof(ConfirmWish),
        typeof(InvitationPage), typeof(JoinWish), typeof(StrengthWish), typeof(StrengthRow),
        typeof(AccountPage), typeof(CodeSecret), typeof(RecoveryCodes), typeof(SettingsWish), typeof(ColleagueRow), typeof(HostsPage),
        typeof(MarkWish), typeof(MarksRow), typeof(MarkActRow), typeof(StrokeWish), typeof(StrokeRow),
        typeof(BringWish), typeof(BroughtRow), typeof(HandoutWish), typeof(PrintRow),
        typeof(RecordingRow), typeof(RecordingPage), typeof(RecordingWish), typeof(FilmWish), typeof(LinkWish),
        typeof(FilmCut), typeof(FilmCutMade), typeof(TranscriptPage), typeof(LineWish), typeof(CaptionRow),
        typeof(MadeLink), typeof(HeldRecording),
        typeof(OpenLink), typeof(OpenedLink), typeof(DriveInput), typeof(AgentCode),
        typeof(InviteHost), typeof(InvitedHost), typeof(OwnerRow), typeof(HousePage), typeof(EraseWish), typeof(TracesRow)
    ];

    private const string _head = """
        // Generated from the C# types; do not edit. `dotnet build src/HoldCourt.Server` writes it anew.

        /** Some of the fields of a type; of an object within, some of its fields, too. */
        export type Fields<T> = { readonly [K in keyof T]?: T[K] | Partial<NonNullable<T[K]>> }


        """;

    public static void WriteIfChanged(string file)
    {
        var text = Generate();
        if (!File.Exists(file) || File.ReadAllText(file) != text) File.WriteAllText(file, text);
    }

    public static string Generate()
    {
        var done = new SortedDictionary<string, string>(StringComparer.Ordinal);
        var waiting = new Queue<Type>(_roots);
        while (waiting.TryDequeue(out var type))
            if (!done.ContainsKey(type.Name)) done[type.Name] = Declare(type, waiting, null);
        return _head + string.Join("\n", done.Values);
    }

    private static string Declare(Type type, Queue<Type> waiting, (string Key, string Value)? discriminator)
    {
        if (type.IsEnum) return $"export type {type.Name} = {string.Join(" | ", Enum.GetNames(type).Select(name => $"'{Camel(name)}'"))}\n";
        if (typeof(INamed).IsAssignableFrom(type))
            return $"export type {type.Name} = {string.Join(" | ", NamesOf(type).Select(name => $"'{name}'"))}\n";
        if (CoreJson.DiscriminatorOf(type) is { } name)
        {
            var members = CoreJson.MembersOf(type).Select(member => $"  | {Members(member, waiting, (name, CoreJson.NameOf(member)))}");
            return $"export type {type.Name} =\n{string.Join("\n", members)}\n";
        }
        if (type.GetCustomAttributes<JsonDerivedTypeAttribute>().ToList() is { Count: > 0 } cases)
        {
            var key = type.GetCustomAttribute<JsonPolymorphicAttribute>()!.TypeDiscriminatorPropertyName!;
            var members = cases.Select(item => $"  | {Members(item.DerivedType, waiting, (key, (string)item.TypeDiscriminator!))}");
            return $"export type {type.Name} =\n{string.Join("\n", members)}\n";
        }
        return $"export type {type.Name} = {Members(type, waiting, discriminator)}\n";
    }

    private static string Members(Type type, Queue<Type> waiting, (string Key, string Value)? discriminator)
    {
        var text = new StringBuilder("{");
        if (discriminator is { } tag) text.Append(System.Globalization.CultureInfo.InvariantCulture, $" {tag.Key}: '{tag.Value}';");
        foreach (var property in type.GetProperties(BindingFlags.Public | BindingFlags.Instance))
        {
            if (property.GetCustomAttribute<JsonIgnoreAttribute>() is { Condition: JsonIgnoreCondition.Always }
                || property.GetIndexParameters() is not [] || property.Name is "IsEmpty" or "EqualityContract") continue;
            var nullable = new NullabilityInfoContext().Create(property).ReadState == NullabilityState.Nullable;
            var leftOut = property.GetCustomAttribute<JsonIgnoreAttribute>() is { Condition: JsonIgnoreCondition.WhenWritingNull };
            var optional = leftOut || (typeof(SeatCommand).IsAssignableFrom(type) && IsOptional(type, property));
            var value = property.GetCustomAttribute<FieldsOfAttribute>() is { Type: var of }
                ? $"Fields<{TypeOf(of, waiting)}>"
                : TypeOf(property.PropertyType, waiting);
            text.Append(System.Globalization.CultureInfo.InvariantCulture,
                $" {Camel(property.Name)}{(optional ? "?" : "")}: {value}{(nullable && !leftOut ? " | null" : "")};");
        }
        return text.Append(" }").ToString();
    }

    private static IEnumerable<string> NamesOf(Type type) => type.GetProperties(BindingFlags.Public | BindingFlags.Static)
        .Where(property => property.PropertyType == type).Select(property => ((INamed)property.GetValue(null)!).Name)
        .Order(StringComparer.Ordinal);

    /// <summary>A parameter with a default may be left out by the browser.</summary>
    private static bool IsOptional(Type type, PropertyInfo property) => type.GetConstructors()
        .Any(constructor => constructor.GetParameters().Any(parameter => parameter.Name == property.Name && parameter.HasDefaultValue));

    private static string TypeOf(Type type, Queue<Type> waiting)
    {
        type = Nullable.GetUnderlyingType(type) ?? type;
        if (type == typeof(string) || type == typeof(Guid)) return "string";
        if (type == typeof(bool)) return "boolean";
        if (type == typeof(int) || type == typeof(double) || type == typeof(long) || type == typeof(Instant) || type == typeof(SeatId))
            return "number";
        if (type.IsGenericType && (type.GetGenericTypeDefinition() == typeof(ImmutableArray<>)
            || type.GetGenericTypeDefinition() == typeof(IReadOnlyList<>)))
            return $"readonly {TypeOf(type.GetGenericArguments()[0], waiting)}[]";
        if (type.IsGenericType && type.GetGenericTypeDefinition() == typeof(ImmutableSortedDictionary<,>))
            return $"Readonly<Record<{TypeOf(type.GetGenericArguments()[0], waiting)}, {TypeOf(type.GetGenericArguments()[1], waiting)}>>";
        waiting.Enqueue(type);
        return type.Name;
    }

    private static string Camel(string name) => JsonNamingPolicy.CamelCase.ConvertName(name);
}
