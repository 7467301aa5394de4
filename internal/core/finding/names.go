package finding

import "strings"

// Side is a side of a comparison by what may tell it from the others: a name that the reviewer gave it, its machine, resin
// and settings, and all of that in a line.
type Side struct {
	Name, Machine, Resin, Settings, Label string
}

// Names are what sides are called in sentences: the names that they were given, else what tells each from all others and
// no more: the machine where each has its own, else the resin, else both, else the settings, else the whole label.
func Names(sides []Side) []string {
	parts := []func(Side) string{func(s Side) string { return s.Machine }, func(s Side) string { return s.Resin }, both, func(s Side) string { return s.Settings }}
	short := func(s Side) string { return s.Label }
	for _, part := range parts {
		if tells(sides, part) {
			short = part
			break
		}
	}
	out := make([]string, len(sides))
	for i, s := range sides {
		if out[i] = strings.TrimSpace(s.Name); out[i] == "" {
			if out[i] = short(s); out[i] == "" {
				out[i] = s.Label
			}
		}
	}
	return out
}

// both are machine and resin.
func both(s Side) string {
	if s.Machine == "" {
		return ""
	}
	return s.Machine + " with " + s.Resin
}

// tells reports a part that is different, and known, on every side; references have none.
func tells(sides []Side, part func(Side) string) bool {
	seen := map[string]bool{}
	for _, s := range sides {
		v := part(s)
		if v == "" && s.Machine == "" {
			continue // a reference has its label
		}
		if v == "" || seen[v] {
			return false
		}
		seen[v] = true
	}
	return len(seen) > 1
}
