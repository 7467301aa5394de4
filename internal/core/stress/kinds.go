// Package stress plans series of stress tests on named specimens and says what they show:
// falls, bends, fits, warmth, light. What breaks in a stress test is no failure of a print.
package stress

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/core/quantity"
)

// Kinds of stress.
const (
	Drop      = "drop"
	Bend      = "bend"
	Fit       = "fit"
	Heat      = "heat"
	Sun       = "sun"
	Stiffness = "stiffness"
)

// Modes of a series. A fresh specimen is stressed once; what a cumulative one bears at a
// level it bears after all levels before.
const (
	Fresh      = "fresh"
	Cumulative = "cumulative"
)

// Classes is how many classes of damage there are, 0 (as before) to 4.
const Classes = 5

// Kind is a kind of stress: what rises from level to level, in which unit, and what each
// class of damage means unless the reviewer words it anew. FailsFrom is the class from which
// on a specimen counts as failed. Under asks for the condition that has to be said. A kind
// that is Measured has a deflection for every level instead of a class of damage.
type Kind struct {
	Key       string          `json:"key"`
	Name      string          `json:"name"`
	Level     string          `json:"level"`
	Unit      string          `json:"unit"`
	Under     string          `json:"under"`
	Anchors   [Classes]string `json:"anchors"`
	FailsFrom int64           `json:"fails_from"`
	Usual     []float64       `json:"usual"`
	Measured  bool            `json:"measured"`
	// does is what a specimen that holds did, as in "survived a drop of 600 mm".
	does string
}

// Kinds are all kinds of stress.
var Kinds = []Kind{
	{Drop, "Drop", "height", "mm", "onto what, and how it was let go",
		[Classes]string{"as before", "a mark that one must look for", "a chip or a bend; still usable", "a part broke off", "in several pieces"}, 3, []float64{200, 400, 800, 1200}, false, "survived a fall from %s"},
	{Bend, "Bend and snap", "angle", "°", "which part, around what, how fast",
		[Classes]string{"springs back", "stays a little bent", "whitens or crazes", "cracks", "snaps"}, 3, []float64{10, 20, 40, 60, 90}, false, "bent by %s without cracking"},
	{Fit, "Fit and remove", "cycles", "×", "with which mating part",
		[Classes]string{"as at first", "looser, still holds upside down", "falls out by itself", "a crack", "a part broke off"}, 2, []float64{1, 5, 10, 25, 50}, false, "still fitted after %s"},
	{Heat, "Warmth", "temperature", "°C", "where, how long, how it stood",
		[Classes]string{"as before", "soft while warm, its shape kept", "sags, and springs back", "bent for good", "collapsed"}, 3, []float64{40, 50, 60, 70}, false, "kept its shape at %s"},
	{Sun, "Light and age", "time", "h", "under which light, how far away",
		[Classes]string{"as before", "a shade yellower beside one kept dark", "yellow by itself", "brittle or chalky at edges", "cracks"}, 2, []float64{24, 72, 168, 336}, false, "stood %s of light"},
	{Stiffness, "Stiffness of a bar", "load", "g", "on which supports, read with what",
		[Classes]string{}, 0, []float64{20, 50, 100, 150}, true, ""},
}

// KindOf is a kind by its key.
func KindOf(key string) (Kind, bool) {
	i := slices.IndexFunc(Kinds, func(k Kind) bool { return k.Key == key })
	if i < 0 {
		return Kind{}, false
	}
	return Kinds[i], true
}

// Series is a planned series of stress tests. Levels rise, in the unit of its kind, each > 0
// and at most MostLevels; Anchors say what each class of damage means, FailsFrom (1 to 4)
// from which on it failed. SpanMM is between the supports of a bar, > 0, for stiffness alone.
type Series struct {
	Kind      string
	Mode      string
	Under     string
	Levels    []float64
	Anchors   []string
	FailsFrom int64
	SpanMM    *float64
	Seed      uint64
}

// MostLevels and MostSpecimens bound a series.
const (
	MostLevels    = 12
	MostSpecimens = 200
)

// Check reports by field what a series lacks or what cannot be.
func (s Series) Check() error {
	var c quantity.Checks
	kind, known := KindOf(s.Kind)
	if !known {
		c.Fail("kind", "is %.40q, which is no kind of stress", s.Kind)
		return c.Err()
	}
	c.OneOf("mode", s.Mode, Fresh, Cumulative)
	if strings.TrimSpace(s.Under) == "" {
		c.Fail("under", "is missing; say %s", kind.Under)
	}
	if n := len(s.Levels); n == 0 || n > MostLevels {
		c.Fail("levels", "are %d; give 1 to %d", n, MostLevels)
	}
	for i, v := range s.Levels {
		c.Above(fmt.Sprintf("levels[%d]", i), v)
		if i > 0 && v <= s.Levels[i-1] {
			c.Fail(fmt.Sprintf("levels[%d]", i), "is not above the one before; let them rise")
		}
	}
	if kind.Measured {
		s.checkBar(&c)
		return c.Err()
	}
	if s.SpanMM != nil {
		c.Fail("span_mm", "belongs to the stiffness of a bar; leave it out")
	}
	if len(s.Anchors) != Classes {
		c.Fail("anchors", "are %d; say what each of the %d classes of damage means", len(s.Anchors), Classes)
	}
	for i, a := range s.Anchors {
		if strings.TrimSpace(a) == "" {
			c.Fail(fmt.Sprintf("anchors[%d]", i), "is empty; say what this class of damage means")
		}
	}
	if s.FailsFrom < 1 || s.FailsFrom >= Classes {
		c.Fail("fails_from", "is %d; a specimen failed from class 1, 2, 3 or 4 on", s.FailsFrom)
	}
	return c.Err()
}

// checkBar is for the stiffness of bars: the first load is the preload, which the others are
// read from, so that one alone tells nothing.
func (s Series) checkBar(c *quantity.Checks) {
	if s.Mode != Cumulative {
		c.Fail("mode", "is %.40q; a bar is read at all its loads, one after the other", s.Mode)
	}
	if s.SpanMM == nil {
		c.Fail("span_mm", "is missing; measure between the supports")
	}
	c.AboveIf("span_mm", s.SpanMM)
	if len(s.Levels) == 1 {
		c.Fail("levels", "are one; the first load is where reading begins, so that two are needed")
	}
}
