namespace HoldCourt.Core.Docket;

/// <summary>Short forms of given names in several languages. A short form may stand for more than one name.</summary>
internal static class ShortForms
{
    private static readonly string[] _table =
    [
        "alexander alex sasha sascha sandro alek olek lex", "alexandra alex sasha sandra ola alexa", "aleksandra ola sasha alex",
        "andreas andi andy",
        "andrew andy drew", "anna ann annie anni ania anya", "anneliese liesl anne", "anthony tony", "antonio toni tono", "antonia toni",
        "barbara babs barb basia",
        "bartholomew bart", "bartosz bartek", "beatrice bea", "benjamin ben benny", "bernard bernie", "bernhard bernd",
        "catherine cathy cate kate katie", "charles charlie chuck",
        "charlotte lotte charlie", "christian chris", "christina chris tina chrissy", "christine chris tina", "christopher chris kit",
        "daniel dan danny", "daniela dani",
        "david dave", "deborah debbie deb", "dmitri dima mitya", "dominic dom", "dorothy dot dottie", "edward ed eddie ted ned",
        "ekaterina katya", "eleanor ellie nell nora",
        "elena lena", "elisabeth lisa lisbeth else elsa betti liesel", "elizabeth liz lizzie beth betty eliza bess", "emily em emmy",
        "emmanuel manu", "ernesto neto", "esther essie",
        "eugene gene", "ewa ewka", "ferdinand ferdi", "francis frank", "frances fran", "francisco paco pancho cisco", "franziska franzi",
        "frederick fred freddie", "friedrich fritz",
        "gabriel gabe gabi", "gabriele gabi", "geoffrey geoff", "george georgie", "gerald gerry jerry", "gertrud trude",
        "giovanni gianni nino", "giuseppe beppe peppe", "gregory greg",
        "guillermo memo", "hannah anna", "harold harry hal", "heinrich heiner heinz", "helen nell", "henry harry hank", "ignacio nacho",
        "isabel isa bella", "isabella bella izzy",
        "ivan vanya", "jacob jake", "jacqueline jackie", "james jim jimmy jamie", "janet jan", "jennifer jen jenny", "jeremy jerry",
        "jesus chucho", "joachim jochen achim",
        "joan joanie", "johann hans hansi", "johannes hans hannes jo", "john jack johnny jon", "jonathan jon jonny", "josef sepp jupp",
        "jose pepe", "joseph joe joey", "josephine jo josie",
        "joshua josh", "juan juancho", "judith judy", "julia jules", "kathleen kathy kath", "katharina kathi kati käthe",
        "katherine kate kathy katie kat kitty", "kazimierz kazik", "kenneth ken kenny",
        "krzysztof krzysiek", "kwabena kobby", "larissa lara", "laurence larry", "lawrence larry", "leonard len lenny leo", "leopold poldi",
        "lieselotte lilo liese lotte", "lucia lucy", "luigi gigi",
        "magdalena magda lena", "malgorzata gosia", "manuel manolo manu", "marcus mark", "margaret maggie meg peggy madge greta",
        "margarete grete gretel", "maria mia marie mary", "mariana mari",
        "martin marty", "martha marty", "matthew matt", "matthias matze hias", "maximilian max", "michael mike mick micky michi",
        "mikhail misha", "mercedes merche", "miguel migue", "natalia natasha nat",
        "nathaniel nat nate nathan", "nicholas nick nicky", "nikolai kolya", "nikolaus klaus niko", "olga olya", "oluwaseun seun",
        "oluwaseyi seyi", "oyelaran laran", "pamela pam", "patricia pat patty trish",
        "patrick pat paddy", "paul paulie", "peter pete", "philip phil", "philippa pippa", "rafael rafa", "raymond ray",
        "rebecca becky becca", "richard rick dick richie rich", "robert bob rob bobby robbie bert",
        "roberto beto tito", "ronald ron ronnie", "rosario charo", "roswitha rosi", "rudolf rudi", "samantha sam", "samuel sam sammy",
        "santiago santi", "sebastian seb basti", "sergei seryozha", "solomon sol",
        "stanislaw staszek", "stephanie steph", "stephen steve", "steven steve", "susan sue suzie", "svetlana sveta", "tamsin tam",
        "tatiana tanya", "teodor teo ted", "terence terry", "theodore ted theo teddy",
        "theresa terry tess", "therese resi", "thomas tom tommy", "timothy tim", "tomasz tomek", "ursula uschi ulla", "valentina valya",
        "vanessa nessa", "victor vic", "victoria vicky tori", "vincent vince",
        "vladimir volodya vova", "walter walt wally", "wilhelm willi willy", "william bill will billy liam", "winifred winnie",
        "wojciech wojtek", "yevgeny zhenya", "zachary zach zack", "zofia zosia"
    ];

    private static readonly Dictionary<string, HashSet<string>> _names = Build();

    private static Dictionary<string, HashSet<string>> Build()
    {
        var names = new Dictionary<string, HashSet<string>>();
        foreach (var line in _table.Select(line => line.Split(' ').SelectMany(name => NameWords.Split(name)).ToList()))
            foreach (var form in line)
            {
                if (!names.TryGetValue(form, out var fulls)) names[form] = fulls = [];
                fulls.Add(line[0]);
            }
        return names;
    }

    /// <summary>The full names that a word may stand for, itself left out unless it is one.</summary>
    public static IReadOnlySet<string> FullNamesOf(string word) => _names.GetValueOrDefault(word) ?? _none;

    /// <summary>A name, full or short, that people are known to have.</summary>
    public static bool IsName(string word) => _names.ContainsKey(word);

    private static readonly HashSet<string> _none = [];
}
