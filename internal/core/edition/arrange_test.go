package edition

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
)

func keys(parts []Part) string {
	var out []string
	for _, p := range parts {
		key := p.Key
		if p.Out {
			key = "-" + key
		}
		out = append(out, key)
	}
	return strings.Join(out, " ")
}

func TestPartsStandWhereTheyWerePut(t *testing.T) {
	known := []string{"a", "b", "c", "d"}
	for name, c := range map[string]struct {
		kept []Part
		want string
	}{
		"nothing was kept":                  {nil, "a b c d"},
		"moved, and one left out":           {[]Part{{Key: "d"}, {Key: "a"}, {Key: "b", Out: true}, {Key: "c"}}, "d a -b c"},
		"a part came up since":              {[]Part{{Key: "d"}, {Key: "c"}, {Key: "a"}}, "d c a b"},
		"the first came up since":           {[]Part{{Key: "b"}, {Key: "c"}, {Key: "d"}}, "a b c d"},
		"a part is known no longer":         {[]Part{{Key: "x"}, {Key: "b"}, {Key: "a"}}, "b c d a"},
		"written between":                   {[]Part{{Key: "a"}, {Key: "own-1"}, {Key: "b"}}, "a own-1 b c d"},
		"one kept twice stands once":        {[]Part{{Key: "b"}, {Key: "b", Out: true}}, "a b c d"},
		"own parts alone stay where put":    {[]Part{{Key: "own-2"}, {Key: "own-1"}}, "a b c d own-2 own-1"},
		"one between two that were swapped": {[]Part{{Key: "c"}, {Key: "own-1"}, {Key: "a"}}, "c d own-1 a b"},
	} {
		if got := keys(Arrange(known, c.kept)); got != c.want {
			t.Errorf("%s: %s, not %s", name, got, c.want)
		}
	}
}

// Whatever was kept, each known part stands exactly once, and what was kept keeps its order.
func TestArrangingLosesNothing(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	all := strings.Split("a b c d e f own-1 own-2 gone", " ")
	for range 500 {
		known := all[:1+random.IntN(6)]
		var kept []Part
		for _, i := range random.Perm(len(all))[:random.IntN(len(all))] {
			kept = append(kept, Part{Key: all[i], Out: random.IntN(3) == 0})
		}
		got := Arrange(known, kept)
		for _, key := range known {
			n := 0
			for _, p := range got {
				if p.Key == key {
					n++
				}
			}
			if n != 1 {
				t.Fatalf("%s stands %d times in %s, of %v kept as %s", key, n, keys(got), known, keys(kept))
			}
		}
		last := -1
		for _, p := range kept {
			at := slices.Index(got, p)
			if at < 0 {
				if Own(p.Key) || slices.Contains(known, p.Key) {
					t.Fatalf("%s is lost from %s, kept as %s", p.Key, keys(got), keys(kept))
				}
				continue
			}
			if at < last {
				t.Fatalf("%s, kept as %s", keys(got), keys(kept))
			}
			last = at
		}
	}
}
