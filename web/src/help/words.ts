/** What stands on the screens, in a sentence each. A word has one entry; what is written another way has its own key. */
export const WORDS = new Map<string, string>([
  // Rig
  ["no.", "The fixture's number: by it the fixture is typed, found and said, such as 401 or 401-408."],
  ["ch", "Channels that the fixture takes in its mode; it must equal what is set on the fixture."],
  [
    "cells",
    "Lights of a fixture that are controlled one by one: 405:5 is the fifth of 405, 405:0 what all of them share.",
  ],
  [
    "address",
    "Where the fixture's first channel lies: U3.201 is universe 3, channel 201. +1 moves it by one.",
  ],
  [
    "blocks",
    "Parts of a mode with their own run of channels. Joined squares follow each other, one apart has its own address, a hollow one lies nowhere.",
  ],
  ["profile", "What a fixture is: its maker, its modes and their channels."],
  ["mode", "The list of channels that must be the one set on the fixture itself."],
  [
    "select",
    "Type what you mean: 401-408 every 2nd, Tower & odd, a group's name, with : red for one emitter of it.",
  ],
  [
    "add",
    "Type what hangs there as you would say it: 6 x RGB lamp, from 201, Lamp {n}. All of it is shown before it is made.",
  ],
  ["highlight", "Lights the chosen fixtures up while it is held; what was before comes back."],
  ["keep lit", "Lights the chosen alone and everything else dark, until it is pressed again."],
  ["by hand", "Values that you set yourself. They stand above every look until they are released."],
  ["release", "Gives what was held by hand back to what plays."],
  [
    "presets",
    "Colours, positions and settings kept under a name; lines refer to them, and follow when one is changed.",
  ],
  ["groups", "Fixtures under one name. A group has a master, and can be typed wherever fixtures are."],
  ["plan", "Where everything hangs, in metres; lamps have the colours that are sent."],
  ["snap", "What is dragged on the plan comes to lie on a grid of so many metres."],
  [
    "response",
    "How the light of a cell follows its value: as it is, or bent so that dark colours part better.",
  ],
  [
    "must equal the mode set on the fixture",
    "A fixture in another mode reads the channels as something else: look at its menu or its switches.",
  ],
  ["renumber", "Gives the chosen fixtures new numbers, counted on; it is shown before it is done."],
  // Patch
  [
    "universe",
    "512 channels that travel together. Ours are U1, U2 ...; an output says which number each has on the wire.",
  ],
  ["universes", "512 channels each that travel together; an output says which number each has on the wire."],
  [
    "patch doctor",
    "Looks for what will go wrong: channels shared, numbers one beside, lamps that stay dark. Many are mended by one press.",
  ],
  [
    "outputs",
    "Ways to the lamps: which universes, by which protocol, to whom. A universe without one goes nowhere.",
  ],
  ["output", "A way to the lamps: which universes, by which protocol, to whom."],
  [
    "nodes heard",
    "Devices that answer on the network, with the numbers they listen to and what of ours comes to them.",
  ],
  ["nodes", "Devices that take universes from the network and pass them on to lamps."],
  ["mute", "The output goes on, with everything dark."],
  ["port-address", "How Art-Net numbers universes: Net, Sub-Net and Universe in one number, counted from 0."],
  ["net 0", "How Art-Net numbers universes: Net, Sub-Net and Universe, each counted from 0."],
  ["multicast", "By sACN to all who ask for a universe's group; nobody's address is needed."],
  ["unicast", "Packets go to one address and nobody else."],
  ["broadcast", "Packets go to everybody on the network; with many universes that is much for all of them."],
  [
    "priority",
    "Of several sACN senders of one universe the highest priority is obeyed; equal ones share by the higher value.",
  ],
  ["frames a second", "How often an output sends; 44 is the most a DMX line with 512 channels can take."],
  ["artsync", "Nodes wait with a frame until all universes of it have come."],
  ["address automatically", "Gives fixtures addresses one after another; what would move is shown first."],
  ["patch sheet", "All addresses as a table, to print or to compare with another one."],
  ["free", "Channels of the universe that no fixture takes."],
  // Matrices
  ["matrix", "A plane of squares on which cells have their places; effects are painted on it."],
  ["matrices", "Planes of squares on which cells have their places; effects are painted on them."],
  ["weave", "Places cells in the order in which they are wired; it says what would move before it does."],
  ["strand", "The line that joins the cells in the order of their addresses: the wiring, as it should be."],
  ["snake", "The wiring turns back at the end of a line in place of beginning at the same side."],
  ["boards", "The matrix is made of smaller boards, each wired in the same way."],
  ["gaps", "Squares without a lamp whose channels are counted all the same."],
  ["skip", "Squares without a lamp, and without channels."],
  ["not placed", "Cells that stand on no square here: take a run, then click its squares."],
  ["light it", "Walks along the strand on the real lamps, to see whether it hangs as it stands here."],
  ["zoom", "How large a square is drawn."],
  // Looks
  ["look", "A picture that plays: lines one upon another, each with what it paints and where."],
  ["looks", "Pictures that play: lines one upon another, each with what it paints and where."],
  [
    "add a line",
    "What may lie on top next: an effect, a clip, a chase, another colouring, a live picture, attributes.",
  ],
  ["opacity", "How much of a line covers what lies beneath it."],
  ["over", "The line lies over what is beneath, as opaque as it is."],
  ["every", "How long a round takes, in seconds, beats or bars."],
  ["by hand in", "How long the look takes to come when it is started by hand."],
  ["tint", "Turns all colours towards one, by as much as you say."],
  ["unroll", "Makes frames of what moves, to be edited one by one."],
  ["recolour", "Gives what lies beneath the colours of a ramp by its brightness."],
  ["chases", "Drawn frames, one after another, with how long each stays and fades."],
  ["clips", "Videos and pictures that lines can play."],
  ["feed", "A live picture from elsewhere: a camera, a stream, universes that arrive."],
  ["attributes", "A line that sets what is no colour: pan, tilt, zoom, shutter, gobo, by word or by number."],
  [
    "one frame, three times",
    "The same moment as it is painted, as it comes to the cells, and as it was really sent.",
  ],
  ["painted", "The picture before it comes to the cells."],
  ["on the cells", "What is asked of the cells, after colours and masters."],
  ["sent", "Read back from the very bytes that went out."],
  ["asked = sent", "What went out is what was asked for; the largest difference stands beside it."],
  ["drive", "Lets a value move by itself: a wave, a curve, the beat."],
  // Run
  ["go", "Fades to the next cue. In a fade it goes on from where it stands."],
  ["back", "Goes to the cue before."],
  ["hold", "Stops the fade where it is, until it goes on."],
  ["cue", "A step of a list: which looks play and how they come."],
  ["cue list", "The order of an evening: cues with their fades, and what comes next."],
  ["lists", "Orders of cues; several may play at once, by priority."],
  ["take what runs", "Makes a cue of the looks that play now."],
  ["fade in", "How long the cue takes to come."],
  ["then", "What comes after the cue: it holds, or goes on by time, beat, bar or the clock."],
  ["masters", "Faders above groups and above everything; they scale what looks make."],
  ["master", "Scales all light of every look and every value by hand."],
  ["running looks", "What plays, by whom it was started, and how much of it arrives."],
  ["start by hand", "Starts and stops a look over whatever runs."],
  ["tempo", "Beats a minute; everything that counts in beats and bars follows."],
  ["tap", "Press it in time: the tempo is what you tap."],
  ["pace of everything", "How fast the time of all looks runs."],
  ["show time", "The time by which everything moves; it can be held, stepped by frames and set."],
  ["favourites", "Values kept to be called up again."],
  ["score", "Looks written in bars on staves, played by tempo."],
  ["fill", "Writes a score: mood and density say what comes when."],
  ["pages", "Pads and faders for tablets and phones."],
  ["clock", "What begins by itself: at a time, at dusk, on which days."],
  // Check
  ["test walk", "Lights one after another on the real lamps; what you see is marked and mended."],
  ["health", "How the program is; what is not well stands first."],
  ["event log", "What happened, with its time."],
  ["why", "Every step that made the value of this channel, with the value after each."],
  ["why is it dark", "Names the first broken link between what plays and the light of a lamp."],
  ["before desk", "The universe as looks and masters make it, before hands and the guard."],
  ["received", "What other devices send to this machine."],
  ["look back", "The last minutes of what was sent: any moment can be shown and asked why."],
  ["held or parked", "Everything that hands or the show itself hold against what plays."],
  [
    "park",
    "The show holds the channel at this value, whatever plays; mute and the guard alone are above it.",
  ],
  [
    "parked",
    "The show holds the channel at this value, whatever plays; mute and the guard alone are above it.",
  ],
  ["by fixture", "Channels folded at the fixture, so that equal emitters stand beneath each other."],
  ["channels", "All 512 values of a universe as they go out."],
  ["lamps", "The lamps of a matrix as they are lit."],
  // Everywhere
  ["blackout", "Everything dark at once; parked channels stay. The same key lets it go."],
  ["freeze", "The picture stands still; masters and blackout still act."],
  ["lasers safe", "No laser gives light, whatever plays. They are armed by holding the sign."],
  ["lasers armed", "Lasers may give light. One press makes them safe."],
  ["read back from the wire", "These pictures are made of the bytes that went out, not of what should have."],
  ["frames/s", "Frames that really went out in the last second."],
  ["undo", "Takes your own last edit back; others' edits stay."],
  ["redo", "Does again what you took back."],
  ["night", "The dark and the light face."],
  ["nodes answer", "Of the devices heard on the network, how many answer now."],
]);

const LONGEST_FIRST = [...WORDS.keys()].sort((a, b) => b.length - a.length);
const LONG_PX = 90;

const whole = (text: string, word: string): boolean => {
  const at = text.indexOf(word);
  if (at < 0) return false;
  const [before, after] = [text[at - 1] ?? " ", text[at + word.length] ?? " "];
  return !/[a-z]/.test(before) && !/[a-z]/.test(after);
};

/** The entry that a label is about: the longest word of it that is known; null where none is. */
export function wordIn(label: string): { word: string; says: string } | null {
  const text = label.toLowerCase().replace(/\s+/g, " ").trim();
  if (!text || text.length > LONG_PX) return null;
  const word = LONGEST_FIRST.find((one) => whole(text, one));
  return word ? { word, says: WORDS.get(word) ?? "" } : null;
}
