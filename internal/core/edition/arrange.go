package edition

import (
	"slices"
	"strings"
)

// own begins the keys of parts that the reviewer put into a write-up.
const own = "own-"

// Own reports the key of a part that the reviewer put into a write-up.
func Own(key string) bool { return strings.HasPrefix(key, own) }

// Part is a part of a write-up in its place, by its key; Out is one that is left out.
type Part struct {
	Key string
	Out bool
}

// Arrange is the order of a write-up: what was kept in the order in which it was kept, without parts that are known no longer;
// a part that is known and was never placed stands behind the one that usually stands before it. Own parts stand where they
// were put.
func Arrange(known []string, kept []Part) []Part {
	out := make([]Part, 0, len(known)+len(kept))
	at := func(key string) int { return slices.IndexFunc(out, func(p Part) bool { return p.Key == key }) }
	for _, p := range kept {
		if (Own(p.Key) || slices.Contains(known, p.Key)) && at(p.Key) < 0 {
			out = append(out, p)
		}
	}
	for i, key := range known {
		if at(key) >= 0 {
			continue
		}
		after := -1
		if i > 0 {
			after = at(known[i-1])
		}
		out = slices.Insert(out, after+1, Part{Key: key})
	}
	return out
}
