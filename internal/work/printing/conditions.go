package printing

import (
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/work/upkeep"
)

// ConditionWords say under which conditions a print was made: what the record computes
// of its machine, and what was seen and measured.
func ConditionWords(s RunSheet) []string {
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
	add("panel", c.Fitted.Panel)
	add("firmware", c.Fitted.Firmware)
	add("film type", c.Fitted.FilmType)
	add("plate surface", c.Fitted.PlateSurface)
	add("with", say.List(c.Fitted.Accessories))
	if t := s.Run.ResinTempC; t != nil {
		add("resin at", say.Figure(*t)+" °C")
	}
	if quantity.Or(s.Run.FilmClouded, false) {
		words = append(words, "film seen clouded")
	}
	if quantity.Or(s.Run.LevelOff, false) {
		words = append(words, "level seen off")
	}
	if s.Run.DialChanged {
		words = append(words, "a setting was changed while it printed")
	}
	add("seen:", s.Run.Observed)
	return words
}
