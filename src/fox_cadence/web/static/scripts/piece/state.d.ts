type Casting = typeof import("./casting.js").casting;
type Choosing = typeof import("./choosing.js").choosing;
type Directing = typeof import("./directing.js").directing;
type Editing = typeof import("./editing.js").editing;
type Finding = typeof import("./finding.js").finding;
type Fitting = typeof import("./fitting.js").fitting;
type Hearing = typeof import("./hearing.js").hearing;
type Holding = typeof import("./holding.js").holding;
type Keys = typeof import("./keys.js").keys;
type Recording = typeof import("./recording.js").recording;
type Revisions = typeof import("./revisions.js").revisions;
type Taking = typeof import("./taking.js").taking;
type Work = typeof import("./work.js").work;
type Whole = typeof import("./whole.js").whole;
type Writing = typeof import("./writing.js").writing;
type Core = typeof import("../piece.js").core;
interface Magics { $root: HTMLElement; $nextTick(then: () => void): Promise<void>; $watch(name: string, then: (now: any) => void): void }
export interface State extends Casting, Choosing, Directing, Editing, Finding, Fitting, Hearing, Holding, Keys, Recording, Revisions, Taking, Work, Whole, Writing, Core, Magics {}
