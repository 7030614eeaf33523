// The whole state of a project's page: what its parts bring, and what Alpine gives to each.

type Blending = typeof import("./blending.js").blending;
type Mixing = typeof import("./mixing.js").mixing;
type SoundShelf = typeof import("./sound_shelf.js").soundShelf;
type Melody = typeof import("./melody.js").melody;
type Cleaning = typeof import("./cleaning.js").cleaning;
type Casting = typeof import("./casting.js").casting;
type Selection = typeof import("./selection.js").selection;
type Docketed = typeof import("./docket.js").docketed;
type Directing = typeof import("./directing.js").directing;
type Editing = typeof import("./editing.js").editing;
type Finding = typeof import("./finding.js").finding;
type Fitting = typeof import("./fitting.js").fitting;
type Hearing = typeof import("./hearing.js").hearing;
type UnsavedEdits = typeof import("./unsaved_edits.js").unsavedEdits;
type Keys = typeof import("./keys.js").keys;
type Adjusting = typeof import("./adjusting.js").adjusting;
type Laying = typeof import("./laying.js").laying;
type Lettering = typeof import("./lettering.js").lettering;
type Performing = typeof import("./performing.js").performing;
type Placing = typeof import("./placing.js").placing;
type Preparing = typeof import("./preparing.js").preparing;
type Proving = typeof import("./proving.js").proving;
type Figures = typeof import("./figures.js").figures;
type Filling = typeof import("./filling.js").filling;
type Framing = typeof import("./framing.js").framing;
type Picturing = typeof import("./picturing.js").picturing;
type Panes = typeof import("./panes.js").panes;
type Recording = typeof import("./recording.js").recording;
type Reviewing = typeof import("./reviewing.js").reviewing;
type Treating = typeof import("./treating.js").treating;
type Undo = typeof import("./undo.js").undo;
type Takes = typeof import("./takes.js").takes;
type Work = typeof import("./work.js").work;
type Welcome = typeof import("./welcome.js").welcome;
type Whole = typeof import("./whole.js").whole;
type ScriptImport = typeof import("./script_import.js").scriptImport;
type Core = typeof import("../piece.js").core;

interface Magics {
  $root: HTMLElement;
  $nextTick(then: () => void): Promise<void>;
  $watch(name: string, then: (now: unknown) => void): void;
}

export interface State
  extends
    Adjusting,
    Blending,
    Casting,
    Cleaning,
    Core,
    Directing,
    Docketed,
    Editing,
    Figures,
    Filling,
    Finding,
    Framing,
    Fitting,
    Hearing,
    Keys,
    Laying,
    Lettering,
    Performing,
    Placing,
    Preparing,
    Proving,
    Magics,
    Melody,
    Mixing,
    Panes,
    Picturing,
    Recording,
    Reviewing,
    ScriptImport,
    Selection,
    SoundShelf,
    Takes,
    Treating,
    Undo,
    UnsavedEdits,
    Welcome,
    Whole,
    Work {}
