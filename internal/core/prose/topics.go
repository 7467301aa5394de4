package prose

import (
	"regexp"
	"strings"

	"ojime/internal/core/finding"
)

// topic is something that reviews praise or blame, by the words for it, and the measures that show it by their keys or
// beginnings; none where nothing here does.
type topic struct {
	words    []string
	measures []string
}

// untestable and untested topics, until a measure of a review shows them.
var topics = []topic{
	{[]string{"noise", "noisy", "quiet", "quieter", "silent", "loud", "louder"}, []string{"lived noise"}},
	{[]string{"smell", "smells", "odour", "odourless", "smelly"}, []string{"lived smell_kept_in", "rating smell"}},
	{[]string{"tough", "toughness", "brittle", "unbreakable", "shatterproof"}, []string{"stress "}},
	{[]string{"stiff", "stiffness", "flexible", "bendy"}, []string{"stress ", "rating stiffness"}},
	{[]string{"sanding", "sands", "sand", "drills", "drilling", "carves"}, nil},
	{[]string{"paint", "paints", "primer", "priming"}, []string{"rating primer_grip"}},
	{[]string{"durable", "durability", "built to last", "lifetime", "long-lived"}, nil},
	{[]string{"build quality", "well made", "well-made", "solid build"}, nil},
	{[]string{"customer service", "customer support", "warranty", "spare parts"}, []string{"lived service"}},
	{[]string{"software", "slicer", "interface", "menus"}, []string{"lived slicing", "lived screen"}},
	{[]string{"wifi", "wireless", "network connection"}, []string{"lived handing_over"}},
	{[]string{"manual", "instructions"}, []string{"lived manual"}},
	{[]string{"easy to clean", "easy cleaning"}, []string{"lived cleaning"}},
	{[]string{"yellowing", "yellows"}, []string{"rating yellowing"}},
	{[]string{"overheats", "heat", "runs hot"}, nil},
}

// Untested are the words for what none of the measures of a review shows.
func Untested(measures []string) (out []string) {
	for _, t := range topics {
		shown := false
		for _, m := range measures {
			for _, key := range t.measures {
				shown = shown || strings.HasPrefix(m, key)
			}
		}
		if !shown {
			out = append(out, t.words...)
		}
	}
	return out
}

// abouts are the words by which text speaks of a measure, by the beginning of its key.
var abouts = []struct {
	key   string
	words []string
}{
	{"failures", []string{"failures", "failure", "failed", "fails", "fail", "reliable", "unreliable", "reliability"}},
	{"time", []string{"time", "quicker", "slower", "faster", "speed", "fast", "slow"}},
	{"size ", []string{"error", "errors", "accurate", "accuracy", "precise", "precision", "sizes", "dimensions"}},
	{"error_", []string{"error", "errors", "accurate", "accuracy", "precise", "precision", "sizes", "dimensions"}},
	{"ladder ", []string{"posts", "pins", "gaps", "slots", "finest", "fine detail", "detail", "details"}},
	{"checkpoint ", []string{"detail", "details"}},
	{"rating edges", []string{"edges", "crisp", "crisper", "sharp", "sharper"}},
	{"rating layer_lines", []string{"layer lines", "smooth", "smoother"}},
	{"rating stepping", []string{"stepping", "smooth", "smoother"}},
	{"blemished", []string{"blemishes", "blemish", "finish", "surface"}},
	{"marks", []string{"marks", "marked"}},
	{"cost", []string{"cost", "costs", "cheaper", "dearer"}},
	{"stress ", []string{"tough", "tougher", "toughness", "drops", "bends"}},
}

// About are the words by which text speaks of a measure of a key; none where nothing is known.
func About(key string) []string {
	for _, a := range abouts {
		if strings.HasPrefix(key, a.key) {
			return a.words
		}
	}
	return nil
}

// Graded adds what a row of a measure showed to the subjects: of several rows on the same words the strongest counts, so that a
// sentence is held against the best that can be said.
func Graded(subjects []Subject, key, grade, sentence string) []Subject {
	words := About(key)
	if len(words) == 0 {
		return subjects
	}
	for i, s := range subjects {
		if s.Words[0] != words[0] {
			continue
		}
		if finding.Rank(grade) < finding.Rank(s.Grade) {
			subjects[i].Grade, subjects[i].Sentence = grade, sentence
		}
		return subjects
	}
	return append(subjects, Subject{Words: words, Grade: grade, Sentence: sentence})
}

// Live puts the figures of the record in the place of their names in double braces. Names that are no figure are left, and
// returned.
func Live(text string, figures []Figure, says func(Figure) string) (out string, unknown []string) {
	out = liveName.ReplaceAllStringFunc(text, func(m string) string {
		name := strings.TrimSpace(strings.Trim(m, "{}"))
		for _, f := range figures {
			if f.Name == name {
				return says(f)
			}
		}
		unknown = append(unknown, name)
		return "[no such figure: " + name + "]"
	})
	return out, unknown
}

// lives question live figures that there are not.
func lives(s sentence, c Context) (out []Remark) {
	for _, at := range liveName.FindAllStringIndex(s.text, -1) {
		if _, unknown := Live(s.text[at[0]:at[1]], c.Figures, Figure.Says); len(unknown) > 0 {
			out = append(out, Remark{From: at[0], To: at[1], Rule: Number, Why: "There is no figure of this name.", Offer: "a name from the list of live figures"})
		}
	}
	return out
}

var liveName = regexp.MustCompile(`\{\{[^{}]*\}\}`)
