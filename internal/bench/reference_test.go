package bench

import (
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

func TestASurfaceIsOneOfAList(t *testing.T) {
	for _, c := range []struct {
		surface *string
		note    string
		wrong   string // what the message holds; empty where it is taken
		plain   string
		told    string
	}{
		{nil, "", "", "", ""},
		{quantity.Ptr("primed"), "", "", "primed", ""},
		{quantity.Ptr("other"), "varnished", "", "other", "varnished"},
		{quantity.Ptr("other"), " ", "Casting", "other", " "},
		{quantity.Ptr("raw, grey"), "cast", "Casting is \"raw, grey\"", "raw", "cast; surface: raw, grey"},
		{quantity.Ptr("waxed"), "", "Use raw, primed, painted or other", "other", "surface: waxed"},
		{quantity.Ptr(""), "", "Casting", "", ""},
	} {
		r := Reference{Name: "Casting", Surface: c.surface, Note: c.note}
		err := r.Check()
		if (err == nil) != (c.wrong == "") || err != nil && !strings.Contains(err.Error(), c.wrong) {
			t.Errorf("%v: %v", quantity.Or(c.surface, "none"), err)
		}
		if plain := r.PlainSurface(); quantity.Or(plain.Surface, "") != c.plain || plain.Note != c.told {
			t.Errorf("%v becomes %q with %q", quantity.Or(c.surface, "none"), quantity.Or(plain.Surface, ""), plain.Note)
		}
	}
}
