package audit

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/say"
)

// Tells says which of several factors under test a pair of sides answers for: the one that
// alone differs between them. Where several do, a difference may be any of theirs, and
// where none does, the pair tells of none. Empty with fewer than two factors under test.
func Tells(a, b Conditions, underTest []string, nameA, nameB string) string {
	tested := slices.DeleteFunc(slices.Clone(underTest), func(f string) bool { return !slices.Contains(Factors(), f) || f == prints })
	if len(tested) < 2 {
		return ""
	}
	var differ, unknown []string
	for _, factor := range tested {
		label := strings.ToLower(Label(factor))
		switch inA, inB := Shown(factor, a), Shown(factor, b); {
		case inA == NotKnown || inB == NotKnown:
			unknown = append(unknown, label)
		case inA != inB:
			differ = append(differ, label)
		}
	}
	pair := nameA + " against " + nameB
	switch {
	case len(unknown) > 0:
		return fmt.Sprintf("%s: %s is not known of both, so it cannot be said what the pair tells.", pair, say.List(unknown))
	case len(differ) == 0:
		return pair + ": nothing that is under test differs."
	case len(differ) == 1:
		return fmt.Sprintf("%s: %s alone differs, so the pair tells of it.", pair, differ[0])
	}
	return fmt.Sprintf("%s: %s differ at once, so a difference may be any of theirs.", pair, say.List(differ))
}

// WhichPairs says, for each of several factors under test, which pairs of sides differ in
// it alone and so answer for it; factors that no pair tells are said too. Empty with fewer
// than two factors under test or two sides.
func WhichPairs(sides []Conditions, underTest []string, names []string) []string {
	tested := slices.DeleteFunc(slices.Clone(underTest), func(f string) bool { return !slices.Contains(Factors(), f) || f == prints })
	out := []string{}
	if len(tested) < 2 || len(sides) < 2 {
		return out
	}
	pairs := map[string][]string{}
	for b := range sides {
		for a := b + 1; a < len(sides); a++ {
			var differ []string
			for _, factor := range tested {
				if Shown(factor, sides[a]) != Shown(factor, sides[b]) {
					differ = append(differ, factor)
				}
			}
			if len(differ) == 1 && Shown(differ[0], sides[a]) != NotKnown && Shown(differ[0], sides[b]) != NotKnown {
				pairs[differ[0]] = append(pairs[differ[0]], names[a]+" against "+names[b])
			}
		}
	}
	for _, factor := range tested {
		if of := pairs[factor]; len(of) > 0 {
			out = append(out, fmt.Sprintf("%s alone differs in %s.", Label(factor), say.List(of)))
		} else {
			out = append(out, fmt.Sprintf("%s differs alone in no pair: its effect is not told by two sides.", Label(factor)))
		}
	}
	return out
}
