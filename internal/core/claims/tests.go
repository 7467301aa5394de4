package claims

// Tests are what would show whether a claim of a kind holds, offered where nobody has said it; in the order in which a
// reviewer would set about it.
var Tests = map[string]string{
	"words":   "Put it to a blind panel, or rate it on a scale with anchors, from the distance at which it is claimed.",
	"speed":   "Print one piece of full height three times with the settings that the claim is made for, and let the program take the times.",
	"ratio":   "Enter pixels and plate of both machines as they are stated; the ratio follows, and says of what it is one.",
	"life":    "Keep every print on record and tie a knot when the part is renewed, with what it had done until then.",
	"size":    "Survey the plate: a frame along its edges and the tallest piece that comes out whole.",
	"measure": "Print three plates a side or more, all else held, and read what the claim is about on each.",
}
