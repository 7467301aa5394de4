package printing

import (
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/work/upkeep"
)

// ConditionWords say under which conditions a print was made: what the record computes
// of its machine, and what was seen and measured.
func ConditionWords(s *RunSheet) []string {
	var words []string
	add := func(name, text string) {
		if text != "" {
			words = append(words, name+" "+strings.TrimSuffix(text, "."))
		}
	}
	c := s.Condition
	add("film:", upkeep.WearWords(c.Film, "layers", nil))
	if c.Level.Days != nil {
		add("levelled", say.Counted(int64(*c.Level.Days), "day")+" before")
	}
	if quantity.Or(c.Level.Moved, false) {
		words = append(words, "moved since")
	}
	switch {
	case c.Level.VerifiedMS != nil && c.Level.EndedBy == "":
		words = append(words, "level verified "+say.Day(*c.Level.VerifiedMS))
	case c.Level.VerifiedMS != nil:
		words = append(words, "outside its verified level, ended by: "+say.Words(c.Level.EndedBy))
	}
	add("panel", c.Fitted.Panel)
	add("firmware", c.Fitted.Firmware)
	add("film type", c.Fitted.FilmType)
	add("plate surface", c.Fitted.PlateSurface)
	add("with", say.List(c.Fitted.Accessories))
	add("stood in", c.Fitted.Room)
	if s.Room.Says != "" {
		words = append(words, s.Room.Says)
	}
	if s.Light != nil {
		words = append(words, s.Light.Says)
	}
	if quantity.Or(s.RoomOutside, false) {
		words = append(words, "outside the "+s.Resin.Window().Words()+" stated for its resin")
	}
	if quantity.Or(s.Run.FilmClouded, false) {
		words = append(words, "film seen clouded")
	}
	if quantity.Or(s.Run.LevelOff, false) {
		words = append(words, "level seen off")
	}
	add("prepared in", quantity.Or(s.Run.Software, ""))
	add("orientation", quantity.Or(s.Run.Orientation, ""))
	add("supports", quantity.Or(s.Run.Supports, ""))
	for _, done := range []struct {
		what string
		s    *float64
	}{{"washed for", s.Run.WashS}, {"cured for", s.Run.CureS}} {
		if done.s != nil {
			add(done.what, say.Duration(*done.s))
		}
	}
	add("surface", quantity.Or(s.Run.Surface, ""))
	if s.Run.PausedS > 0 {
		add("paused for", say.Duration(s.Run.PausedS))
	}
	if s.Run.DialChanged {
		words = append(words, "a setting was changed while it printed")
	}
	add("seen:", s.Run.Observed)
	return words
}
