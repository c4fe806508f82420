// Generated from the C# types; do not edit. `dotnet build src/HoldCourt.Server` writes it anew.

/** Some of the fields of a type; of an object within, some of its fields, too. */
export type Fields<T> = { readonly [K in keyof T]?: T[K] | Partial<NonNullable<T[K]>> }

export type AccountPage = { name: string; email: string; emailConfirmed: boolean; keeper: boolean; hasCode: boolean; recoveryCodes: number; passkeys: readonly PasskeyRow[]; signIns: readonly SignInRow[]; sessions: number; }

export type AgentCode = { code: string; minutes: number; }

export type AlteredRows = { seats: readonly number[]; to: Fields<SeatRow>; }

export type AnnounceWish = { name: string | null; passcode: string | null; invitation: string | null; }

export type Announcement = { sitting: string; }

export type Answer = 'none' | 'comes' | 'maybe' | 'comesNot'

export type AnswerPage = { name: string; title: string; hostName: string; startsAt: number | null; minutes: number | null; answer: Answer; cancelled: boolean; link: string; }

export type AnswerWish = { answer: Answer; token: string | null; }

export type Arrangement = 'even' | 'lead' | 'pair' | 'exhibit'

export type Audience = 'everyone' | 'presenters' | 'bench'

export type BallotRow = { poll: number; may: boolean; voted: boolean; choice: Choice | null; }

export type BarRow = { option: number | null; number: number | null; words: string | null; count: number; }

export type BenchNote = { recognition: Recognition; line: DocketLine | null; exit: Exit | null; asked: boolean; hasLeave: boolean; consents: boolean; droppedAt: number | null; given: readonly Order[]; taken: readonly Order[]; talked: number; hadFloor: number; looksLike: string | null; wantsToShow: number | null; showsOnce: boolean; recordingAnswer: RecordingAnswer | null; voted: boolean | null; }

export type BringWish = { file: string | null; paper: number | null; }

export type BroughtRow = { exhibit: number; }

export type BusinessFacet = { item: ItemRow | null; at: number | null; following: number | null; since: number | null; spent: Readonly<Record<number, number>> | null; }

export type CallIn = { name: string; email: string | null; role: Role; }

export type CalledIn = { link: string; sent: boolean; }

export type Capability = 'adjourn' | 'exhibit' | 'giveRoles' | 'handOut' | 'handOver' | 'keepChat' | 'keepDoor' | 'keepExhibits' | 'keepFloor' | 'keepPapers' | 'keepRunSheet' | 'keepTime' | 'mark' | 'muteOthers' | 'raiseHand' | 'react' | 'record' | 'recordOwn' | 'remove' | 'renameOthers' | 'renameSelf' | 'runCaptions' | 'runPolls' | 'runRooms' | 'seeChat' | 'seePeople' | 'setOrders' | 'setPicture' | 'showCamera' | 'speak' | 'takeBack' | 'turnCamerasOff' | 'writeToAll' | 'writeToBench' | 'writeToOne'

export type CaptionRow = { number: number; heard: number; speaker: number | null; name: string | null; text: string; draft: boolean; }

export type CaptionerRow = { turn: boolean; writer: string | null; others: number; }

export type CaptionsFacet = { on: boolean; byMachine: boolean; captioners: readonly number[]; turn: number | null; }

export type ChapterRow = { at: number; title: string; }

export type ChatFacet = { putUp: MessageRow | null; }

export type ChatPage = { rows: readonly MessageRow[]; older: number | null; }

export type ChatWish = { before: number | null; find: string | null; }

export type Choice = { options: readonly number[]; number: number | null; text: string | null; }

export type ClashKind = 'apartAndTogether' | 'apartInOneRoom' | 'togetherInTwoRooms' | 'togetherTooMany' | 'notApart'

export type CodeSecret = { key: string; address: string; }

export type ColleagueRow = { id: string; name: string; }

export type ConfirmWish = { account: string | null; token: string | null; email: string | null; }

export type ConsentRow = { at: number; seat: number; name: string; answer: RecordingAnswer; erased: boolean; }

export type ContactImport = { rows: readonly ImportRow[]; added: number; changed: number; same: number; skipped: number; flaw: string | null; }

export type ContactRow = { id: number; name: string; email: string | null; phone: string | null; groups: readonly string[]; }

export type CountsFacet = { inside: number; waiting: number; gone: number; }

export type CueRow = { line: number; from: number; to: number; name: string; text: string; draft: boolean; corrected: boolean; }

export type CutRow = { from: number; to: number; }

export type Deletion = 'none' | 'bySender' | 'byBench'

export type DocketLine = { name: string; role: Role; email: string | null; group: string | null; slot: number | null; minutes: number | null; key: string | null; }

export type DocketPage = { lines: readonly DocketRow[]; overlaps: readonly string[]; }

export type DocketRow = { id: number | null; name: string; email: string | null; role: Role; group: string | null; slot: string | null; minutes: number | null; answer: Answer; invitedAt: number | null; }

export type DoorFacet = { mode: DoorMode | null; byName: boolean; lock: DoorLock | null; locked: boolean; notice: Notice | null; }

export type DoorLock = { words: string; lateWait: boolean; }

export type DoorMode = 'open' | 'listed' | 'attended'

export type DoorPage = { title: string; hostName: string | null; startsAt: number | null; phase: DoorPhase; sitting: string | null; entry: EntryKind; holdsSeat: boolean; barred: boolean; needsPasscode: boolean; lock: DoorLock | null; knownName: string | null; hasHostKey: boolean; preparing: boolean; cancelled: boolean; invitationGone: boolean; session: string | null; onRecord: OnRecord; }

export type DoorPhase = 'notOpen' | 'open' | 'over'

export type DraftRow = { number: number; form: RoomForm; people: readonly PlanRow[]; repeated: number; least: number; clashes: readonly RoomClash[]; unknown: readonly string[]; missing: readonly string[]; coming: readonly string[]; }

export type DriveInput = { is: DriveKind; x: number; y: number; button: number; down: boolean; code: string | null; }

export type DriveKind = 'move' | 'button' | 'wheel' | 'key'

export type Electorate = { attendees: boolean; presenters: boolean; bench: boolean; groups: readonly string[]; named: readonly number[]; }

export type EntryKind = 'enterAsHost' | 'enterAsDeputy' | 'walkIn' | 'announce'

export type EraseWish = { name: string | null; email: string | null; }

export type ExhibitKind = 'screen' | 'document' | 'picture' | 'sheet'

export type ExhibitRow = { number: number; letter: string; kind: ExhibitKind; title: string; by: number; byName: string; since: number; held: boolean; shown: boolean; pages: PagesRow | null; hasAgent: boolean; loan: LoanRow | null; room: string | null; mayMark: boolean; }

export type Exit = 'left' | 'declined' | 'removed' | 'removedForGood' | 'visitOver'

export type FileSort = 'document' | 'picture' | 'other'

export type FilmCut = { parts: readonly CutRow[]; looks: boolean; }

export type FilmCutMade = { parts: readonly CutRow[]; film: string | null; }

export type FilmProgress = { share: number; left: number | null; }

export type FilmRow = { id: string; framing: Framing | null; names: boolean; questions: boolean; state: FilmState; flaw: string | null; progress: FilmProgress | null; askedAt: number; length: number; size: number; cuts: readonly CutRow[]; }

export type FilmState = 'waiting' | 'composing' | 'ready' | 'failed' | 'cancelled'

export type FilmWish = { framing: Framing | null; names: boolean; questions: boolean; cuts: readonly CutRow[] | null; }

export type FloorFacet = { rule: FloorRule | null; turn: TurnRow | null; }

export type FloorOrder = 'byHand' | 'fair'

export type FloorRule = { order: FloorOrder; seconds: number | null; endsItself: boolean; }

export type ForesightRow = { refusal: Refusal | null; does: readonly LedgerRow[]; touches: number; shifts: readonly ShiftRow[]; brings: string | null; }

export type Framing = 'even' | 'lead' | 'exhibit' | 'sound'

export type FromBrowser =
  | { type: 'askForKey'; track: number; }
  | { type: 'describe'; tracks: readonly TrackDescription[]; }
  | { type: 'echo'; mark: number; }
  | { type: 'show'; pictures: readonly WishedPicture[]; }

export type GonePage = { rows: readonly SeatRow[]; more: boolean; }

export type GroupRule = { group: string; order: Order; may: boolean; }

export type GroupsFacet = { names: readonly string[]; rules: readonly GroupRule[]; }

export type HandoutRow = { number: number; name: string; size: number; sort: FileSort; by: number; byName: string; toAll: boolean; toName: string | null; prints: boolean; since: number; state: HandoutState; count: number; kept: boolean; room: string | null; }

export type HandoutRules = { largestMegabytes: number; documents: boolean; pictures: boolean; others: boolean; }

export type HandoutState = 'own' | 'offered' | 'taken' | 'refused'

export type HandoutWish = { file: string; to: number | null; prints: boolean; }

export type HandsFacet = { queue: readonly number[] | null; }

export type HeldRecording = { id: string; name: string; length: number; ready: boolean; }

export type HostRow = { id: string; name: string; email: string; emailConfirmed: boolean; keeper: boolean; suspended: boolean; demo: boolean; hasCode: boolean; sessions: number; seenAt: number | null; me: boolean; }

export type HostsPage = { hosts: readonly HostRow[]; invitations: readonly InvitationRow[]; mailIsDelivered: boolean; }

export type HousePage = { version: string; startedAt: number; sittings: readonly LiveSitting[]; people: number; lines: number; relayIn: number; relayOut: number; dropped: number; dataBytes: number; diskFree: number; mailWaits: number; mailSince: number | null; mailGivenUp: number; mailIsDelivered: boolean; backupAt: number | null; backupFailure: string | null; makesBackups: boolean; memory: number; processor: number; address: string | null; failed: readonly WorkRow[]; busy: number; turnedAway: number; }

export type ImportDeed = 'add' | 'change' | 'same' | 'skip'

export type ImportRow = { number: number; contact: ContactRow; deed: ImportDeed; flaw: string | null; }

export type InvitationPage = { email: string; name: string; }

export type InvitationRow = { id: number; email: string; name: string; byMail: boolean; at: number; until: number; usedAt: number | null; }

export type InviteHost = { email: string | null; name: string | null; byMail: boolean; }

export type InviteWish = { lines: readonly number[]; }

export type InvitedHost = { link: string | null; }

export type Item = { id: number; title: string; minutes: number | null; lead: string | null; orders: StandingOrders | null; picture: Arrangement | null; note: string | null; shows: string | null; records: boolean | null; asks: string | null; opensRooms: boolean; }

export type ItemRow = { title: string; number: number; of: number; minutes: number | null; since: number; }

export type ItemsFacet = { items: readonly Item[] | null; }

export type JoinWish = { token: string | null; name: string | null; password: string | null; language: string | null; }

export type Joined = { me: MeRow; view: WholeView; now: number; build: string; chat: ChatPage; captions: readonly CaptionRow[]; trouble: TroubleRow; }

export type KeptPlan = { id: string; link: string; plan: Plan; hasPasscode: boolean; hasHostKey: boolean; cancelled: boolean; invited: number; next: readonly number[]; timeTwice: boolean; }

export type LateRule = 'smallestRoom' | 'ownGroup' | 'wait'

export type Layer = 'none' | 'thumb' | 'full'

export type LedgerCheckRow = { entries: number; firstBreak: number | null; digest: string; }

export type LedgerPage = { rows: readonly LedgerRow[]; more: boolean; }

export type LedgerRow = { sequence: number; at: number; what: string; count: number; names: readonly string[]; topic: Topic; by?: string; detail?: string; undone?: LedgerRow; room?: string; }

export type LedgerWish = { before: number | null; topics: readonly Topic[]; person: number | null; byBench: boolean; from: number | null; to: number | null; }

export type LineWish = { text: string | null; }

export type LinkRow = { id: string; madeAt: number; endsAt: number | null; hasPasscode: boolean; }

export type LinkWish = { days: number | null; passcode: string | null; }

export type LiveSitting = { title: string; owner: string; since: number; seated: number; waiting: number; }

export type LoanRow = { to: number; toName: string; taken: boolean; }

export type MadeLink = { link: string; }

export type MailState = 'kept' | 'waiting' | 'sent' | 'givenUp'

export type Mailed = { count: number; }

export type Mark = { number: number; by: number; page: number; shape: MarkShape; colour: MarkColour; width: number; line: string; text: string; }

export type MarkActRow = { exhibit: number; sequence: number; by: number; put: readonly Mark[]; drop: readonly number[]; }

export type MarkColour = 'black' | 'vermilion' | 'blue' | 'green' | 'orange' | 'white'

export type MarkShape = 'pen' | 'highlighter' | 'line' | 'arrow' | 'box' | 'ellipse' | 'text'

export type MarkWish =
  | { mark: 'clear'; page: number | null; own: boolean; }
  | { mark: 'draw'; page: number; shape: MarkShape; colour: MarkColour; width: number; line: string; text: string; }
  | { mark: 'erase'; numbers: readonly number[]; }
  | { mark: 'move'; number: number; line: string; }
  | { mark: 'stepBack'; again: boolean; }

export type MarksRow = { exhibit: number; sequence: number; marks: readonly Mark[]; }

export type Match = 'unknown' | 'twice' | 'likely' | 'sure'

export type MatchReason = 'personalLink' | 'sameName' | 'wordsInOtherOrder' | 'joinedWords' | 'otherSpelling' | 'shortForm' | 'initial' | 'oneSlip' | 'partOfName' | 'moreWords' | 'slotNear' | 'slotFar' | 'nearerSlot' | 'severalFit' | 'alreadyInside' | 'claimedTwice' | 'deviceName' | 'notOnDocket'

export type Me = { id: string | null; name: string | null; email: string | null; token: string; keeper: boolean; setUp: boolean; openDemo: boolean; settings: string | null; }

export type MeRow = { v: number; seat: number; name: string; role: Role; viewer: Viewer; place: Place; exit: Exit | null; words: string | null; since: number; microphone: MicrophoneState; cameraOn: boolean; asked: boolean; consents: boolean; hand: number | null; state: State | null; wantsToShow: number | null; recordingAnswer: RecordingAnswer | null; captioner: CaptionerRow | null; ballot: BallotRow | null; room: number | null; ownRoom: OwnRoomRow | null; may: readonly Capability[]; exhibits: readonly ExhibitRow[]; handouts: readonly HandoutRow[]; }

export type MessageRow = { number: number; at: number; from: number; name: string | null; role: Role; to: Recipient; toName: string | null; text: string; question: Question; edited: boolean; deleted: Deletion; room: string | null; }

export type MicrophoneState = 'open' | 'closed' | 'byLeave'

export type Misreading = 'empty' | 'unfinished' | 'notUnderstood' | 'unknownName' | 'doubtfulName' | 'nobodyThere'

export type NameSet = { names: readonly string[]; }

export type NamedPreset = { name: string; door: DoorMode; orders: StandingOrders; }

export type NewCode = { code: string; }

export type Notice = { at: number; words: string; }

export type OnRecord = 'no' | 'told' | 'asked'

export type OpenLink = { secret: string; passcode: string | null; }

export type OpenNow = { title: string | null; }

export type OpenedLink = { recording: string | null; needsPasscode: boolean; }

export type OpenedSitting = { sitting: string; link: string; }

export type Order = 'speak' | 'showCamera' | 'rename' | 'seePeople' | 'writeToAll' | 'writeToBench' | 'writeToOne' | 'seeChat' | 'react' | 'exhibit' | 'mark' | 'handOut' | 'record'

export type OutboxPage = { row: OutboxRow; text: string; calendar: string | null; }

export type OutboxRow = { id: number; to: string; subject: string; at: number; state: MailState; answer: string | null; nextAt: number | null; sentAt: number | null; house: boolean; }

export type OutlookRow = { lateMinutes: number; starts: readonly SeatStart[]; }

export type OwnRecorderRow = { seat: number; name: string | null; }

export type OwnRoomRow = { number: number; ordinal: number; name: string; task: string | null; with: readonly string[]; leads: boolean; }

export type OwnerRow = { id: string; name: string; owner: boolean; me: boolean; }

export type PageFlaw = 'broken' | 'locked' | 'tooManyPages' | 'tooLarge' | 'tookTooLong' | 'noConverter' | 'serverFailed'

export type PageView = { scale: number; x: number; y: number; turn: number; }

export type PagesRow = { file: string | null; count: number; at: number; opens: string; secret: string | null; view: PageView; holder: number | null; holderName: string | null; freeLook: boolean; flaw: PageFlaw | null; ruling: Ruling; standIns: readonly StandIn[] | null; }

export type PaperRow = { id: number; name: string; size: number; addedAt: number; }

export type PasskeyProof = { credential: string | null; name: string | null; }

export type PasskeyRow = { id: string; name: string; madeAt: number; }

export type PastRoom = { number: number; ordinal: number; name: string; task: string | null; leads: readonly number[]; round: number; keepsChat: boolean; }

export type PastedText = { text: string; }

export type PersonRow = { seat: number; device: string | null; since: number | null; slow: boolean; history: readonly LedgerRow[]; }

export type Phase = 'new' | 'prepare' | 'inSession' | 'recess' | 'adjourned'

export type PictureFacet = { setting: PictureSetting | null; }

export type PictureSetting = { arrangement: Arrangement | null; front: readonly number[]; }

export type Place = 'lobby' | 'seated' | 'gone'

export type Plan = { title: string; description: string; kind: SessionKind; start: string | null; minutes: number | null; zone: string; rule: string | null; except: readonly string[]; earlyEntry: boolean; door: DoorMode; orders: StandingOrders; recordsItself: boolean; runSheet: readonly Item[] | null; language: string | null; doorByName: boolean; polls: readonly PollForm[] | null; rooms: RoomForm | null; }

export type PlanRow = { seat: number; room: number; byHand: boolean; leads: boolean; }

export type PollForm = { text: string; kind: PollKind; options: readonly string[]; most: number | null; low: number | null; high: number | null; secret: boolean; who: Electorate; late: boolean; seconds: number | null; quorum: number | null; }

export type PollKind = 'yesOrNo' | 'trueOrFalse' | 'one' | 'several' | 'scale' | 'number' | 'words' | 'preference'

export type PollResult = { voters: number; turnout: number; abstained: number; quorate: boolean | null; bars: readonly BarRow[]; spread: SpreadRow | null; rounds: readonly RoundRow[]; first: readonly number[]; }

export type PollRow = { number: number; form: PollForm; openedAt: number; endsAt: number | null; closedAt: number | null; voters: number | null; turnout: number | null; result: PollResult | null; shown: boolean; lost: boolean; tooFew: boolean; digest: string | null; }

export type PollsFacet = { open: PollRow | null; over: readonly PollRow[]; prepared: readonly PollForm[]; }

export type PresetRow = { id: number; name: string; door: DoorMode; orders: StandingOrders; }

export type PrintRow = { pages: number; }

export type Question = 'none' | 'asked' | 'answered'

export type Reach = 'everyone' | 'bench' | 'one'

export type ReadDocket = { lines: readonly ReadLine[]; flaw: string | null; }

export type ReadLine = { number: number; text: string; line: DocketRow; flaw: string | null; }

export type ReadRooms = { rooms: readonly RoomSpec[]; twice: readonly string[]; }

export type ReadingRow = { command: SeatCommand | null; misreading: Misreading | null; about: string | null; completions: readonly string[]; foresight: ForesightRow | null; }

export type Reason = 'alreadyOpen' | 'answerEmpty' | 'answerOutOfRange' | 'answerTooLong' | 'barred' | 'benchNotExcepted' | 'boxIsLost' | 'cameraNotAllowed' | 'captionEmpty' | 'captionTooLong' | 'changedSince' | 'chatHidden' | 'closingOutOfRange' | 'doorLocked' | 'endOutOfRange' | 'exhibitsNotAllowed' | 'fileGone' | 'goingBackNotAllowed' | 'handingOutNotAllowed' | 'handoutKindNotAllowed' | 'handoutTooLarge' | 'hostIsOutOfReach' | 'hostMustHandOver' | 'hostNeedsNoHand' | 'itemWithoutTitle' | 'lendingUnseen' | 'listeningNotAllowed' | 'markTooLong' | 'marksNotAllowed' | 'mayShowAlready' | 'messageEmpty' | 'messageTooLong' | 'microphonesByLeave' | 'minutesOutOfRange' | 'nameEmpty' | 'nameHidden' | 'nameMarks' | 'nameTooLong' | 'noAgent' | 'noChange' | 'noExceptions' | 'noHands' | 'noItemLeft' | 'noPages' | 'noPollOpen' | 'noRecogniser' | 'noRoomsOpen' | 'noRoomsPlanned' | 'noRoomsWithVisits' | 'noRunSheet' | 'noScreenOpen' | 'noSheet' | 'noStates' | 'noSuchCaption' | 'noSuchExhibit' | 'noSuchGroup' | 'noSuchHandout' | 'noSuchItem' | 'noSuchMark' | 'noSuchMessage' | 'noSuchPage' | 'noSuchPoll' | 'noSuchRoom' | 'noSuchSeat' | 'nobodyConsents' | 'nobodyForRooms' | 'nobodyMayVote' | 'nobodyNext' | 'nobodyOnFloor' | 'nobodySeated' | 'nobodyWaits' | 'notADeputyOrSeated' | 'notAsked' | 'notCaptioner' | 'notForPapers' | 'notInRoom' | 'notInSession' | 'notInside' | 'notOpen' | 'notStored' | 'notUnderstood' | 'notVoter' | 'notYourCaptions' | 'notYourExhibit' | 'notYourMark' | 'notYourMessage' | 'nothingLent' | 'nothingRecorded' | 'nothingShown' | 'nothingToRedo' | 'nothingToTakeBack' | 'nothingToUndo' | 'noticeEmpty' | 'onlyBench' | 'onlyHost' | 'optionTwice' | 'outOfReach' | 'ownRecordingNotAllowed' | 'pagesNotThere' | 'pagingUnseen' | 'pagingWithAnother' | 'papersFull' | 'planChangedSince' | 'pollIsClosed' | 'pollIsOpen' | 'pollNotCounted' | 'pollTimeOutOfRange' | 'pollWithoutOptions' | 'pollWithoutQuestion' | 'reactionsOff' | 'recordingOver' | 'renameNotAllowed' | 'roleNotGiven' | 'roomMinutesOutOfRange' | 'roomNameTooLong' | 'roomNameTwice' | 'roomNotYours' | 'roomTaskTooLong' | 'roomsAreOpen' | 'scaleOutOfRange' | 'screenIsOpen' | 'sheetFull' | 'shelfFull' | 'sittingFull' | 'sittingOver' | 'speakWhileListening' | 'superseded' | 'takenFromYou' | 'timeOutOfRange' | 'tooFast' | 'tooFewForSecret' | 'tooLargeForPapers' | 'tooLong' | 'tooMany' | 'tooManyCaptioners' | 'tooManyChosen' | 'tooManyEdits' | 'tooManyHandouts' | 'tooManyInFront' | 'tooManyMarks' | 'tooManyOptions' | 'tooManyPolls' | 'tooManyRecordings' | 'tooManyRooms' | 'tooManyScreens' | 'visitsStayApart' | 'votedElsewhere' | 'wordsTooLong' | 'writingNotAllowed'

export type Recess = { words: string; since: number; until: number | null; endsItself: boolean; }

export type Recipient = { reach: Reach; seat: number | null; }

export type Recognition = { match: Match; line: number | null; confidence: number; reasons: readonly MatchReason[]; }

export type RecordingAnswer = 'agreed' | 'unrecorded'

export type RecordingFacet = { number: number; phase: RecordingPhase | null; recorded: number; runsSince: number | null; rules: RecordingRules; missing: boolean; own: readonly OwnRecorderRow[]; }

export type RecordingPage = { recording: RecordingRow; sitting: string; stretches: readonly StretchRow[]; keeps: boolean; film: string | null; chapters: readonly ChapterRow[]; spoken: readonly SpokenRow[]; peaks: string; consents: readonly ConsentRow[]; links: readonly LinkRow[]; tracks: readonly TrackRow[]; }

export type RecordingPhase = 'running' | 'paused' | 'stopped'

export type RecordingRow = { id: string; session: string; sessionTitle: string; name: string; shelf: string; startedAt: number; endedAt: number | null; length: number; size: number; watchers: Watchers; deletedAt: number | null; films: readonly FilmRow[]; }

export type RecordingRules = { framing: Framing; names: boolean; questions: boolean; asksConsent: boolean; watchers: Watchers; byPlan: boolean; }

export type RecordingWish = { name: string; shelf: string; watchers: Watchers; }

export type RecoveryCodes = { codes: readonly string[]; }

export type Refusal = { reason: Reason; remedy: Remedy; words: string | null; }

export type Remedy = 'none' | 'askHost' | 'askBench' | 'waitForLeave' | 'chooseAnother' | 'shorten' | 'handOverFirst' | 'tryAgain' | 'openFirst' | 'takePaging'

export type ResetWish = { account: string | null; token: string | null; password: string | null; }

export type Role = 'attendee' | 'presenter' | 'deputy' | 'host'

export type RoomClash = { kind: ClashKind; people: readonly number[]; }

export type RoomForm = { rooms: readonly RoomSpec[]; spread: Spread; notAgain: boolean; together: readonly NameSet[]; apart: readonly NameSet[]; task: string | null; minutes: number | null; late: LateRule; mayGoBack: boolean; mayListen: boolean; keepsChat: boolean; seed: number; shows: string | null; }

export type RoomRow = { number: number; ordinal: number; name: string; task: string | null; leads: readonly number[]; endsAt: number | null; called: number | null; calledBy: string | null; heard: number | null; heardName: string | null; words: RoomWords | null; belong: number; }

export type RoomSpec = { name: string; task: string | null; leads: readonly string[]; people: readonly string[]; shows: string | null; }

export type RoomWords = { text: string; at: number; }

export type RoomsFacet = { open: readonly RoomRow[]; here: number | null; opensAt: number | null; draft: DraftRow | null; voice: number | null; voiceName: string | null; anyOpen: boolean; mayGoBack: boolean; mayListen: boolean; keepsChat: boolean; last: RoomForm | null; rounds: number; orders: StandingOrders | null; past: readonly PastRoom[]; }

export type RoundRow = { counts: readonly number[]; exhausted: number; out: number | null; level: readonly number[]; }

export type Ruling = 'plain' | 'ruled' | 'squared'

export type SeatCommand =
  | { do: 'addPage'; exhibit?: number | null; }
  | { do: 'adjourn'; }
  | { do: 'admit'; seats: readonly number[]; as?: Role; }
  | { do: 'admitSure'; }
  | { do: 'answerCall'; room: number; }
  | { do: 'answerRecording'; answer: RecordingAnswer; whole?: boolean; }
  | { do: 'answerUnmute'; agree: boolean; consent?: boolean; }
  | { do: 'askToShow'; on?: boolean; }
  | { do: 'askToUnmute'; seats: readonly number[]; }
  | { do: 'begin'; }
  | { do: 'beginOwnRecording'; }
  | { do: 'callBench'; on?: boolean; }
  | { do: 'callRecess'; words: string; minutes?: number | null; endsItself?: boolean; }
  | { do: 'camerasOff'; seats: readonly number[]; }
  | { do: 'captionByMachine'; on: boolean; }
  | { do: 'clearStates'; }
  | { do: 'closeExhibit'; exhibit: number; }
  | { do: 'closeMicrophone'; }
  | { do: 'closePoll'; }
  | { do: 'closeRooms'; seconds?: number; room?: number | null; }
  | { do: 'correctCaption'; line: number; text: string; }
  | { do: 'decline'; seats: readonly number[]; words?: string | null; }
  | { do: 'deleteMessage'; message: number; }
  | { do: 'dropPoll'; }
  | { do: 'editMessage'; message: number; text: string; }
  | { do: 'endHandout'; handout: number; }
  | { do: 'endItem'; }
  | { do: 'endLoan'; }
  | { do: 'endOwnRecording'; }
  | { do: 'except'; seats: readonly number[]; order: Order; may: boolean | null; }
  | { do: 'exceptGroup'; group: string; order: Order; may: boolean | null; }
  | { do: 'expect'; line: DocketLine; }
  | { do: 'extend'; minutes: number; }
  | { do: 'giveFloor'; seat?: number | null; seconds?: number | null; }
  | { do: 'givePollTime'; seconds: number; }
  | { do: 'giveRole'; seats: readonly number[]; role: Role; }
  | { do: 'giveRoomsTime'; minutes: number; room?: number | null; }
  | { do: 'handOnFile'; handout: number; }
  | { do: 'handOver'; to: number; }
  | { do: 'handPaging'; to?: number | null; exhibit?: number | null; }
  | { do: 'holdScreen'; on: boolean; }
  | { do: 'keepExhibit'; exhibit: number; }
  | { do: 'keepHandout'; handout: number; }
  | { do: 'leave'; successor?: number | null; }
  | { do: 'lendControls'; to: number; }
  | { do: 'letShowOnce'; seats: readonly number[]; may: boolean; }
  | { do: 'lockDoor'; words: string; lateWait: boolean; }
  | { do: 'lookAt'; view: PageView; exhibit?: number | null; }
  | { do: 'lowerHand'; }
  | { do: 'lowerHands'; seats: readonly number[]; }
  | { do: 'markQuestion'; message: number; to: Question; }
  | { do: 'moveToRoom'; seats: readonly number[]; room: number | null; }
  | { do: 'mute'; seats: readonly number[]; }
  | { do: 'muteAll'; presenters?: boolean; }
  | { do: 'nameCaptioner'; person: number; captions?: boolean; }
  | { do: 'next'; }
  | { do: 'nextItem'; }
  | { do: 'openMicrophone'; }
  | { do: 'openPoll'; form: PollForm; }
  | { do: 'openRooms'; }
  | { do: 'openScreen'; title?: string; }
  | { do: 'openSheet'; title?: string; ruling?: Ruling; }
  | { do: 'pauseRecording'; }
  | { do: 'planAnotherRound'; }
  | { do: 'planRooms'; form: RoomForm | null; basis?: number | null; byHand?: boolean; }
  | { do: 'preparePolls'; polls: readonly PollForm[]; }
  | { do: 'putInFront'; seats: readonly number[]; }
  | { do: 'putUp'; message: number | null; }
  | { do: 'raiseHand'; }
  | { do: 'react'; sign: Sign; }
  | { do: 'refuseFile'; handout: number; }
  | { do: 'remove'; seats: readonly number[]; mayReturn: boolean; }
  | { do: 'rename'; seat: number; name: string; }
  | { do: 'resume'; }
  | { do: 'resumeRecording'; }
  | { do: 'sendNotice'; words: string; }
  | { do: 'sendToLobby'; seats: readonly number[]; }
  | { do: 'setArrangement'; to: Arrangement | null; }
  | { do: 'setDoor'; mode: DoorMode; byName?: boolean; }
  | { do: 'setEnd'; to: number | null; }
  | { do: 'setFloor'; to: FloorRule; }
  | { do: 'setFreeLook'; on: boolean; exhibit?: number | null; }
  | { do: 'setHandoutRules'; to: HandoutRules; }
  | { do: 'setOrder'; order: Order; to: Audience; }
  | { do: 'setRecordingRules'; to: RecordingRules; }
  | { do: 'setRoomsOrder'; order: Order; to: Audience; }
  | { do: 'setRunSheet'; items: readonly Item[]; }
  | { do: 'setState'; to: State | null; }
  | { do: 'setSuccession'; seconds: number | null; }
  | { do: 'showExhibit'; exhibit: number; beside?: boolean; }
  | { do: 'showResult'; poll: number; on: boolean; }
  | { do: 'speakToRooms'; on: boolean; }
  | { do: 'startRecording'; }
  | { do: 'stopRecording'; }
  | { do: 'takeBack'; of?: number | null; }
  | { do: 'takeCaptionTurn'; }
  | { do: 'takeControls'; }
  | { do: 'takeDown'; exhibit?: number | null; }
  | { do: 'takeFile'; handout: number; }
  | { do: 'takeFloor'; }
  | { do: 'takePreset'; name: string; door: DoorMode; orders: StandingOrders; }
  | { do: 'tellRooms'; text: string; room?: number | null; }
  | { do: 'turnCamera'; on: boolean; }
  | { do: 'turnPage'; page: number; exhibit?: number | null; }
  | { do: 'turnToItem'; item: number; }
  | { do: 'unlockDoor'; }
  | { do: 'unmute'; seats: readonly number[]; }
  | { do: 'visitRoom'; room: number | null; listens?: boolean; }
  | { do: 'vote'; poll: number; choice: Choice; token?: string | null; }
  | { do: 'write'; to: Recipient; text: string; question?: boolean; }
  | { do: 'writeCaption'; text: string; speaker?: number | null; ago?: number; }
  | { do: 'yieldFloor'; }

export type SeatRow = { id: number; name: string; role: Role; place: Place; since: number; microphone: MicrophoneState; cameraOn: boolean; connected: boolean; hand: number | null; state: State | null; byPhone: boolean; recordable: boolean; room: number | null; listens: boolean; note: BenchNote | null; }

export type SeatStart = { seat: number; from: number; at: number; to: number; }

export type SecondStep = { code: string | null; recovery: boolean; }

export type Service = 'voice' | 'camera' | 'screen' | 'sound'

export type SessionCard = { id: string; title: string; description: string; kind: SessionKind; next: number | null; minutes: number | null; link: string; door: DoorMode; expected: number; hasPasscode: boolean; cancelled: boolean; live: string | null; liveSince: number | null; lastOver: number | null; owner: string | null; }

export type SessionFacet = { title: string; phase: Phase; openedAt: number; adjournedAt: number | null; host: number | null; hostName: string | null; }

export type SessionKind = 'once' | 'standing' | 'recurring'

export type SetUpWish = { code: string | null; name: string | null; email: string | null; password: string | null; language: string | null; }

export type SettingsWish = { settings: string | null; language: string | null; }

export type ShelfFacet = { exhibits: readonly ExhibitRow[]; }

export type ShiftRow = { capability: Capability; gains: boolean; count: number; names: readonly string[]; }

export type Sign = 'agreed' | 'thanks' | 'applause' | 'laughing'

export type SignIn = { email: string | null; password: string | null; }

export type SignInRow = { id: string; device: string | null; address: string; at: number; seenAt: number; here: boolean; }

export type SignRow = { sign: Sign; count: number; names: readonly string[]; }

export type SignedIn = { codeNeeded: boolean; }

export type SittingRow = { session?: SessionFacet; door?: DoorFacet; counts?: CountsFacet; visits?: VisitsFacet; orders?: StandingOrders; groups?: GroupsFacet; floor?: FloorFacet; hands?: HandsFacet; chat?: ChatFacet; picture?: PictureFacet; time?: TimeFacet; shelf?: ShelfFacet; files?: HandoutRules; recording?: RecordingFacet; captions?: CaptionsFacet; polls?: PollsFacet; rooms?: RoomsFacet; business?: BusinessFacet; items?: ItemsFacet; takeBack?: TakeBackFacet; takeable?: TakeableFacet; }

export type SlotRow = { session: string; title: string; name: string; slot: number; minutes: number; answer: Answer; }

export type SpokenRow = { from: number; to: number; name: string; }

export type Spread = 'mixed' | 'byGroup'

export type SpreadRow = { mean: number; median: number; least: number; most: number; }

export type StandIn = { font: string; for: string; }

export type StandingOrders = { speak: Audience; showCamera: Audience; rename: Audience; seePeople: Audience; writeToAll: Audience; writeToBench: Audience; writeToOne: Audience; seeChat: Audience; react: Audience; exhibit: Audience; mark: Audience; handOut: Audience; record: Audience; }

export type State = 'following' | 'lostYou' | 'cannotHear' | 'done' | 'backSoon'

export type Strength = 'weak' | 'fair' | 'good' | 'strong'

export type StrengthRow = { strength: Strength; }

export type StrengthWish = { password: string | null; name: string | null; email: string | null; }

export type StretchRow = { from: number; to: number; }

export type StrokeRow = { by: number; exhibit: number; page: number; stroke: number; shape: MarkShape | null; colour: MarkColour; width: number; line: string; }

export type StrokeWish = { exhibit: number; page: number; stroke: number; shape: MarkShape | null; colour: MarkColour; width: number; line: string; }

export type TakeBackFacet = { newest: TakeableRow | null; }

export type TakeableFacet = { sequences: readonly number[] | null; }

export type TakeableRow = { sequence: number; row: LedgerRow; }

export type TimeFacet = { endsAt: number | null; recess: Recess | null; succession: number | null; }

export type ToBrowser =
  | { type: 'carries'; slow: boolean; }
  | { type: 'ended'; tracks: readonly number[]; }
  | { type: 'introduced'; track: number; seat: number; what: TrackDescription; }
  | { type: 'marked'; mark: number; }
  | { type: 'needKey'; track: number; }
  | { type: 'numbered'; tracks: readonly number[]; }
  | { type: 'speaker'; seat: number | null; }
  | { type: 'wanted'; tracks: readonly number[]; }

export type Topic = 'door' | 'people' | 'microphones' | 'cameras' | 'orders' | 'floor' | 'chat' | 'picture' | 'runSheet' | 'time' | 'connections' | 'exhibits' | 'files' | 'recording' | 'captions' | 'polls' | 'rooms'

export type TracesRow = { names: readonly string[]; contacts: number; lines: number; messages: number; sittings: number; running: number; files: number; }

export type TrackDescription = { source: string; service: Service; layer: Layer; codec: string; }

export type TrackRow = { seat: number; name: string; bytes: number; }

export type TranscriptPage = { cues: readonly CueRow[]; takenOut: readonly number[]; }

export type TroubleRow = { slow: readonly number[]; roomFor: number | null; standsSince: number | null; }

export type TurnRow = { seat: number; name: string; since: number; seconds: number | null; }

export type ViewChange = { from: number; v: number; set?: SittingRow; put?: readonly SeatRow[]; altered?: readonly AlteredRows[]; drop?: readonly number[]; ledger?: readonly LedgerRow[]; }

export type Viewer = 'bench' | 'presenter' | 'attendee' | 'outside'

export type VisitRow = { seat: number; since: number; minutes: number; }

export type VisitsFacet = { hasSlots: boolean; next: number | null; nextSlot: number | null; on: readonly VisitRow[]; }

export type Watchers = 'bench' | 'present' | 'invited'

export type WholeView = { v: number; viewer: Viewer; sitting: SittingRow; seats: readonly SeatRow[]; ledger: readonly LedgerRow[]; }

export type WishedPicture = { seat: number; height: number; source: string; }

export type WorkRow = { name: string; failures: number; failedAt: number; kind: string; pauses: boolean; }
