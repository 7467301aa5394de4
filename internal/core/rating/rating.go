// Package rating holds the scales on which reviewers judge by eye and hand, each step with
// its anchor in words, and how far raters agree. Scores of different stations or stages are
// never brought together here.
package rating

import (
	"slices"

	"ojime/internal/core/evidence"
)

// Steps is how many steps a scale has: scores run from 0 to Steps − 1.
const Steps = 5

// Scale is what is judged, with an anchor in words for each score. Questions are those of a
// comparison that it answers, by the audit's names.
type Scale struct {
	Key       string        `json:"key"`
	Name      string        `json:"name"`
	Anchors   [Steps]string `json:"anchors"`
	Questions []string      `json:"questions"`
	// Own says that the reviewer defined it.
	Own bool `json:"own"`
}

// ofResin are the usual scales that tell of a resin more than of a machine.
var ofResin = []string{"tack", "smell", "stiffness", "haze", "yellowing", "support_ease", "scars", "primer_grip"}

// OfResin reports that scores on the scale tell of the resin: of the usual ones those that a
// machine changes little, and every one of the reviewer's own, of which nobody knows.
func (s Scale) OfResin() bool { return s.Own || slices.Contains(ofResin, s.Key) }

// What draws a thing that is judged: the pixels or spot, or the steps of layers.
const (
	ByDot    = "dot"
	ByLayers = "layers"
)

// DrawnBy is what a machine draws the judged thing with, ByDot or ByLayers; empty where
// neither alone does.
func (s Scale) DrawnBy() string {
	return map[string]string{"edges": ByDot, "layer_lines": ByLayers, "stepping": ByLayers}[s.Key]
}

// Usual are our own scales, in the order in which a sitting goes through them: 4 is what
// most readers want, but of stiffness, where it is most.
var Usual = []Scale{
	{Key: "edges", Name: "Crispness of edges", Questions: []string{"finish", "detail"}, Anchors: [Steps]string{
		"edges run into each other", "edges are there, and round", "clear edges, round corners", "sharp, only the smallest corners soft", "sharp to the smallest corner"}},
	{Key: "layer_lines", Name: "Layer lines", Questions: []string{"finish"}, Anchors: [Steps]string{
		"felt with a nail", "seen wherever one looks", "seen on flat slopes", "seen only when turned in the light", "not found"}},
	{Key: "stepping", Name: "Stepping on curves", Questions: []string{"finish", "detail"}, Anchors: [Steps]string{
		"stairs all over", "stairs on every dome", "stairs on flat tops only", "a hint of them in slanting light", "not found"}},
	{Key: "haze", Name: "Evenness of the surface", Questions: []string{"finish"}, Anchors: [Steps]string{
		"cloudy or blotched all over", "large dull patches", "small dull patches", "even but for one spot", "even all over"}},
	{Key: "yellowing", Name: "Colour kept", Questions: []string{"finish"}, Anchors: [Steps]string{
		"another colour", "clearly yellowed", "yellowed beside a fresh one", "a shade off beside a fresh one", "as fresh"}},
	{Key: "scars", Name: "Scars of supports", Questions: []string{"finish"}, Anchors: [Steps]string{
		"craters or torn detail", "pits that need filling", "stubs that need sanding", "dots that paint hides", "not found"}},
	{Key: "support_ease", Name: "Ease of taking supports off", Questions: []string{"finish"}, Anchors: [Steps]string{
		"broke the piece", "cut one by one", "cut in part, pulled in part", "pulled off with care", "came off by themselves"}},
	{Key: "tack", Name: "Dryness to the touch", Questions: []string{"finish"}, Anchors: [Steps]string{
		"sticks to the glove", "clings to the glove", "takes prints of the fingers", "dry, and a little greasy", "dry"}},
	{Key: "smell", Name: "Freedom from smell", Questions: []string{"finish"}, Anchors: [Steps]string{
		"fills the room", "smelt at arm's length", "smelt in hand", "smelt at the nose", "none"}},
	{Key: "stiffness", Name: "Stiffness in hand", Questions: []string{"finish"}, Anchors: [Steps]string{
		"limp", "bends under its own weight", "bends and springs back", "gives a little", "rigid"}},
	{Key: "primer_grip", Name: "Grip of the primer", Questions: []string{"finish"}, Anchors: [Steps]string{
		"flakes by itself", "comes off on a glove", "comes off under a nail", "scratches only on edges", "does not come off under a nail"}},
}

// Twice is two scores of one thing in the same stage, from the same station.
type Twice struct{ A, B int64 }

// Agreement is how often scores of the same thing were the same, and within one step, with
// Wilson intervals.
type Agreement struct {
	Pairs     int64               `json:"pairs"`
	Same      int64               `json:"same"`
	WithinOne int64               `json:"within_one"`
	SameRate  evidence.RateResult `json:"same_rate"`
	NearRate  evidence.RateResult `json:"within_one_rate"`
}

// Agree counts how far two ratings of the same things agree.
func Agree(pairs []Twice) (out Agreement, err error) {
	for _, p := range pairs {
		out.Pairs++
		switch p.A - p.B {
		case 0:
			out.Same, out.WithinOne = out.Same+1, out.WithinOne+1
		case 1, -1:
			out.WithinOne++
		}
	}
	if out.SameRate, err = evidence.Rate(evidence.Count{Events: out.Same, Trials: out.Pairs}); err != nil {
		return out, err
	}
	out.NearRate, err = evidence.Rate(evidence.Count{Events: out.WithinOne, Trials: out.Pairs})
	return out, err
}
