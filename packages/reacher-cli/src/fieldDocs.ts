/** Made by scripts/field-docs.mjs from the comments of the plan's types. */
const fieldDocs: Record<string, Record<string, string>> = {
  "Plan": {
    "": "A whole plan: every action of the game and the controls that drive it.",
    "$schema": "Where editors find the JSON Schema of plans.",
    "reacherPlan": "The version of the plan format: 1.",
    "name": "The plan's name, used by players' own settings to find the plan they belong to.",
    "version": "The plan's own version, a whole number that rises with each release that renames or removes something.",
    "yAxis": "Whether up is +1 or, as on a screen, -1. Default: \"up\".",
    "slots": "The columns of bindings, in the order of a settings screen. Default: those used, in order of appearance.",
    "flags": "Facts that the game tells the layer, with their value at the start.",
    "actions": "The actions by name."
  },
  "Slot": {
    "": "A named column of bindings.",
    "label": "The heading that players read. Default: the slot's name.",
    "device": "What this slot is for; a keyboard slot takes the mouse as well. Default: anything."
  },
  "Flag": {
    "": "A fact that the game tells the layer.",
    "start": "Its value at the start and after a reset. Default: false."
  },
  "ActionFields": {
    "": "The fields of an action by its kind.",
    "switch": "On or off.",
    "axis": "One number.",
    "vector": "A direction with a length."
  },
  "CommonFields": {
    "": "What every action may say.",
    "label": "The name that players read. Default: the action's name."
  },
  "SwitchFields": {
    "": "On or off: a button of the game.",
    "label": "The name that players read. Default: the action's name.",
    "from": "The controls, by slot.",
    "style": "How a press becomes on and off: on while held, on and off by turns, or either by how long the press is. Default: \"hold\".",
    "tapMs": "For `either`: a press no longer than this stays on, in ms, its end included. Default: 250.",
    "startsOn": "For `toggle` and `either`: on at the start and after a reset. Default: false."
  },
  "MovementFields": {
    "": "What axes and vectors share.",
    "label": "The name that players read. Default: the action's name.",
    "opposed": "What two opposite directions held together do: the one pressed last wins, the one pressed first keeps it, or zero. Default: \"latest\".",
    "shape": "What turns a raw stick or trigger into a usable number."
  },
  "AxisFields": {
    "": "One number, -1..1.",
    "label": "The name that players read. Default: the action's name.",
    "opposed": "What two opposite directions held together do: the one pressed last wins, the one pressed first keeps it, or zero. Default: \"latest\".",
    "shape": "What turns a raw stick or trigger into a usable number.",
    "from": "By slot: a one-dimensional control, or a control for each end."
  },
  "AxisEnds": {
    "": "A control for each end of an axis.",
    "minus": "The control that gives -1.",
    "plus": "The control that gives +1."
  },
  "VectorFields": {
    "": "A direction with a length, such as a movement in the plane.",
    "label": "The name that players read. Default: the action's name.",
    "opposed": "What two opposite directions held together do: the one pressed last wins, the one pressed first keeps it, or zero. Default: \"latest\".",
    "shape": "What turns a raw stick or trigger into a usable number.",
    "from": "By slot: a stick, or a control for each direction.",
    "directions": "How many directions there are; with 4, of two perpendicular ones the one pressed last wins. Default: \"free\".",
    "diagonal": "Whether two keys give a length of 1 or both components 1. Default: \"round\".",
    "faces": "The direction faced before anything has moved. Default: \"down\".",
    "facingFrom": "The shaped length from which a stick turns the facing, 0..1. Default: 0.25.",
    "settleMs": "How long a movement must go on before a diagonal facing gives way to one of its two neighbours, in ms. Default: 60.",
    "gaits": "Named bands of the length, each with the length at which it begins, above 0 and up to 1.",
    "gaitMargin": "How far below its beginning a gait is kept, so that it does not flicker, 0..1. Default: 0.04.",
    "pace": "The speed that goes with the movement."
  },
  "Directions": {
    "": "A control for each direction.",
    "up": "The control that moves up.",
    "left": "The control that moves left.",
    "down": "The control that moves down.",
    "right": "The control that moves right."
  },
  "Shape": {
    "": "What turns a raw stick or trigger into a usable number: dead zone, then curve.",
    "deadZone": "The parts of the travel that count as rest and as full tilt.",
    "curve": "How the travel between the zones is bent."
  },
  "DeadZone": {
    "": "The parts of the travel that count as rest and as full tilt.",
    "kind": "By the length of the tilt, its direction kept. Default: \"round\".",
    "inner": "The share of the travel from the centre that counts as rest, 0..1. Default: 0.12 for sticks, 0.05 for triggers.",
    "outer": "The share of the travel at the rim that counts as full tilt, 0..1. Default: 0.04 for sticks, 0.02 for triggers."
  },
  "Curve": {
    "": "How the travel between the zones is bent.",
    "power": "The travel to this power: above 1 is finer near the centre. Default: 1."
  },
  "Pace": {
    "": "The speed that goes with a vector.",
    "unit": "The unit of the speed, for people.",
    "base": "The speed when no rule holds, in the pace's unit.",
    "rules": "Rules applied in order, each while all that it names is so.",
    "easeMs": "Time in which the pace moves to a new value, in a straight line, in ms. Default: 0."
  },
  "PaceRule": {
    "": "One rule of a pace: `set` replaces the speed, `times` multiplies it.",
    "when": "Flags, switches, axes and vectors that must all be so; `not` before a name turns it round.",
    "set": "The speed from here on, in the pace's unit.",
    "times": "The factor for the speed so far."
  }
};
export default fieldDocs;
