// Generated from the C# types; do not edit. `dotnet build src/HoldCourt.Server` writes it anew.

export type AnnounceWish = { name: string | null; passcode: string | null; invitation: string | null; }

export type Announcement = { sitting: string; }

export type Answer = 'none' | 'comes' | 'maybe' | 'comesNot'

export type AnswerPage = { name: string; title: string; hostName: string; startsAt: number | null; minutes: number | null; answer: Answer; cancelled: boolean; link: string; }

export type AnswerWish = { answer: Answer; }

export type Audience = 'everyone' | 'presenters' | 'bench'

export type BenchNote = { recognition: Recognition; line: DocketLine | null; exit: Exit | null; asked: boolean; hasLeave: boolean; consents: boolean; droppedAt: number | null; }

export type CallIn = { name: string; email: string | null; role: Role; }

export type CalledIn = { link: string; sent: boolean; }

export type Capability = 'speak' | 'showCamera' | 'renameSelf' | 'seePeople' | 'raiseHand' | 'keepDoor' | 'keepFloor' | 'muteOthers' | 'turnCamerasOff' | 'remove' | 'giveRoles' | 'renameOthers' | 'setOrders' | 'takeBack' | 'handOver' | 'adjourn'

export type ContactImport = { rows: readonly ImportRow[]; added: number; changed: number; same: number; skipped: number; trouble: string | null; }

export type ContactRow = { id: number; name: string; email: string | null; phone: string | null; groups: readonly string[]; }

export type DocketLine = { name: string; role: Role; email: string | null; group: string | null; slot: number | null; minutes: number | null; key: string | null; }

export type DoorLock = { words: string; lateWait: boolean; }

export type DoorMode = 'open' | 'listed' | 'attended'

export type DoorPage = { title: string; hostName: string | null; startsAt: number | null; phase: DoorPhase; sitting: string | null; entry: EntryKind; holdsSeat: boolean; barred: boolean; needsPasscode: boolean; lock: DoorLock | null; knownName: string | null; hasHostKey: boolean; preparing: boolean; cancelled: boolean; invitationGone: boolean; session: string | null; }

export type DoorPhase = 'notOpen' | 'open' | 'over'

export type EntryKind = 'enterAsHost' | 'enterAsDeputy' | 'walkIn' | 'announce'

export type Exit = 'left' | 'declined' | 'removed' | 'removedForGood' | 'visitOver'

export type FloorOrder = 'byHand' | 'fair'

export type FloorSheet = { order: FloorOrder; seconds: number | null; endsItself: boolean; }

export type FrameType = 'audio' | 'full' | 'thumb'

export type FromBrowser =
  | { type: 'wish'; pictures: readonly WishedPicture[]; }
  | { type: 'key'; track: number; }
  | { type: 'echo'; mark: number; }

export type ImportDeed = 'add' | 'change' | 'same' | 'skip'

export type ImportRow = { number: number; contact: ContactRow; deed: ImportDeed; trouble: string | null; }

export type InviteWish = { lines: readonly number[]; }

export type Joined = { me: MeRow; view: WholeView; }

export type KeptPlan = { id: string; link: string; plan: Plan; hasPasscode: boolean; hasHostKey: boolean; cancelled: boolean; invited: number; next: readonly number[]; timeTwice: boolean; }

export type LedgerRow = { sequence: number; at: number; by: string | null; what: string; count: number; names: readonly string[]; detail: string | null; undone: LedgerRow | null; }

export type Match = 'unknown' | 'twice' | 'likely' | 'sure'

export type MatchReason = 'personalLink' | 'sameName' | 'wordsInOtherOrder' | 'joinedWords' | 'otherSpelling' | 'shortForm' | 'initial' | 'oneSlip' | 'partOfName' | 'moreWords' | 'slotNear' | 'slotFar' | 'severalFit' | 'alreadyInside' | 'claimedTwice' | 'deviceName' | 'notOnDocket'

export type Me = { name: string | null; email: string | null; token: string; }

export type MeRow = { seat: number; name: string; role: Role; viewer: Viewer; place: Place; exit: Exit | null; words: string | null; since: number; microphone: MicrophoneState; cameraOn: boolean; asked: boolean; consents: boolean; hand: number | null; may: readonly Capability[]; }

export type MicrophoneState = 'open' | 'closed' | 'byLeave'

export type NewCode = { code: string; }

export type Notice = { at: number; words: string; }

export type OpenNow = { title: string | null; }

export type OpenedSitting = { sitting: string; link: string; }

export type Order = 'speak' | 'showCamera' | 'rename' | 'seePeople'

export type OrderSheet = { speak: Audience; showCamera: Audience; rename: Audience; seePeople: Audience; item: Audience; }

export type OutboxPage = { row: OutboxRow; text: string; calendar: string | null; }

export type OutboxRow = { id: number; to: string; subject: string; at: number; trouble: string | null; }

export type OutlookRow = { lateMinutes: number; starts: readonly SeatStart[]; }

export type PaperRow = { id: number; name: string; size: number; addedAt: number; }

export type PastedText = { text: string; }

export type Phase = 'new' | 'prepare' | 'inSession' | 'adjourned'

export type Place = 'lobby' | 'seated' | 'gone'

export type Plan = { title: string; description: string; kind: SessionKind; start: string | null; minutes: number | null; zone: string; rule: string | null; except: readonly string[]; earlyEntry: boolean; door: DoorMode; orders: OrderSheet; recordsItself: boolean; }

export type PresetRow = { id: number; name: string; door: DoorMode; orders: OrderSheet; }

export type ReadLine = { number: number; text: string; line: SheetLine; trouble: string | null; }

export type ReadSheet = { lines: readonly ReadLine[]; trouble: string | null; }

export type Reason = 'notOpen' | 'alreadyOpen' | 'sittingOver' | 'notInside' | 'onlyHost' | 'onlyBench' | 'hostIsOutOfReach' | 'doorLocked' | 'barred' | 'nobodyWaits' | 'nobodySeated' | 'nobodyMuted' | 'nobodyOpen' | 'nobodyConsents' | 'nobodyCamera' | 'noChange' | 'noSuchSeat' | 'notAsked' | 'microphonesByLeave' | 'cameraNotAllowed' | 'renameNotAllowed' | 'nameEmpty' | 'nameTooLong' | 'nameHidden' | 'wordsTooLong' | 'hostMustHandOver' | 'notADeputyOrSeated' | 'roleNotGiven' | 'nothingToTakeBack' | 'changedSince' | 'tooMany' | 'notUnderstood' | 'notStored' | 'sittingFull' | 'nobodyNext' | 'noticeEmpty' | 'noHands' | 'nobodyOnFloor'

export type Recognition = { match: Match; line: number | null; confidence: number; reasons: readonly MatchReason[]; }

export type Refusal = { reason: Reason; remedy: Remedy; words: string | null; }

export type Remedy = 'none' | 'askHost' | 'askBench' | 'waitForLeave' | 'chooseAnother' | 'shorten' | 'handOverFirst' | 'tryAgain' | 'openFirst'

export type Role = 'attendee' | 'presenter' | 'deputy' | 'host'

export type SeatCommand =
  | { do: 'admit'; seats: readonly number[]; as?: Role; }
  | { do: 'admitSure'; }
  | { do: 'decline'; seats: readonly number[]; words?: string | null; }
  | { do: 'sendToLobby'; seats: readonly number[]; }
  | { do: 'setDoor'; mode: DoorMode; }
  | { do: 'lockDoor'; words: string; lateWait: boolean; }
  | { do: 'unlockDoor'; }
  | { do: 'leave'; successor?: number | null; }
  | { do: 'adjourn'; }
  | { do: 'begin'; }
  | { do: 'sendNotice'; words: string; }
  | { do: 'expect'; line: DocketLine; }
  | { do: 'next'; }
  | { do: 'openMicrophone'; }
  | { do: 'closeMicrophone'; }
  | { do: 'turnCamera'; on: boolean; }
  | { do: 'mute'; seats: readonly number[]; }
  | { do: 'muteAll'; presenters?: boolean; }
  | { do: 'unmute'; seats: readonly number[]; }
  | { do: 'askToUnmute'; seats: readonly number[]; }
  | { do: 'answerUnmute'; agree: boolean; consent?: boolean; }
  | { do: 'camerasOff'; seats: readonly number[]; }
  | { do: 'remove'; seats: readonly number[]; mayReturn: boolean; }
  | { do: 'giveRole'; seats: readonly number[]; role: Role; }
  | { do: 'handOver'; to: number; }
  | { do: 'rename'; seat: number; name: string; }
  | { do: 'setOrder'; order: Order; to: Audience; }
  | { do: 'raiseHand'; }
  | { do: 'lowerHand'; }
  | { do: 'lowerHands'; seats: readonly number[]; }
  | { do: 'giveFloor'; seat?: number | null; seconds?: number | null; }
  | { do: 'takeFloor'; }
  | { do: 'yieldFloor'; }
  | { do: 'setFloor'; to: FloorSheet; }
  | { do: 'takeBack'; of?: number | null; }

export type SeatRow = { id: number; name: string; role: Role; place: Place; since: number; microphone: MicrophoneState; cameraOn: boolean; connected: boolean; hand: number | null; note: BenchNote | null; }

export type SeatStart = { seat: number; from: number; at: number; to: number; }

export type SessionCard = { id: string; title: string; description: string; kind: SessionKind; next: number | null; minutes: number | null; link: string; door: DoorMode; expected: number; hasPasscode: boolean; cancelled: boolean; live: string | null; liveSince: number | null; lastOver: number | null; }

export type SessionKind = 'once' | 'standing' | 'recurring'

export type Sheet = { lines: readonly SheetLine[]; overlaps: readonly string[]; }

export type SheetLine = { id: number | null; name: string; email: string | null; role: Role; group: string | null; slot: string | null; minutes: number | null; answer: Answer; invitedAt: number | null; }

export type SignIn = { email: string; password: string; }

export type SittingRow = { title: string; phase: Phase; openedAt: number; adjournedAt: number | null; host: number | null; hostName: string | null; orders: OrderSheet; door: DoorMode | null; lock: DoorLock | null; locked: boolean; inside: number; waiting: number; takeBack: TakeableRow | null; hasSlots: boolean; nextUp: number | null; notice: Notice | null; floor: FloorSheet | null; turn: TurnRow | null; queue: readonly number[] | null; }

export type SlotRow = { session: string; title: string; name: string; slot: number; minutes: number; answer: Answer; }

export type TakeableRow = { sequence: number; row: LedgerRow; }

export type ToBrowser =
  | { type: 'publish'; audio: number; full: number; thumb: number; }
  | { type: 'track'; track: number; seat: number; kind: FrameType; }
  | { type: 'wanted'; audio: boolean; full: boolean; thumb: boolean; }
  | { type: 'key'; track: number; }
  | { type: 'speaker'; seat: number | null; }
  | { type: 'mark'; mark: number; }
  | { type: 'capacity'; slow: boolean; }

export type Told = { count: number; }

export type TurnRow = { seat: number; name: string; since: number; seconds: number | null; }

export type ViewChange = { from: number; v: number; set: SittingRow | null; put: readonly SeatRow[]; drop: readonly number[]; ledger: readonly LedgerRow[]; }

export type Viewer = 'bench' | 'presenter' | 'attendee' | 'outside'

export type WholeView = { v: number; viewer: Viewer; sitting: SittingRow; seats: readonly SeatRow[]; ledger: readonly LedgerRow[]; }

export type WishedPicture = { seat: number; height: number; }
