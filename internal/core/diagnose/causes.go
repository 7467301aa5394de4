package diagnose

import (
	"ojime/internal/core/machine"
	"ojime/internal/say"
)

// clue looks at the conditions: how much the odds change, and the sentence;
// a factor of 1 is unknown with the sentence saying what is not.
type clue func(Conditions) (factor float64, sentence string)

// entry is what is known of a cause. The order runs from what is cheapest to
// test to what is dearest.
type entry struct {
	cause, title, test, remedy string
	symptoms                   []string
	clues                      []clue
}

func (k entry) weigh(c Conditions) (Cause, float64) {
	out := Cause{Cause: k.cause, Title: k.title, Test: k.test, Remedy: k.remedy, For: []string{}, Against: []string{}, Unknown: []string{}}
	odds := 1.0
	for _, look := range k.clues {
		factor, sentence := look(c)
		odds *= factor
		switch {
		case sentence == "":
		case factor > 1:
			out.For = append(out.For, sentence)
		case factor < 1:
			out.Against = append(out.Against, sentence)
		default:
			out.Unknown = append(out.Unknown, sentence)
		}
	}
	return out, odds
}

// above speaks for a cause above a limit, and against it below another.
func above(of func(Conditions) *float64, limit, clear, factor float64, name, unit string) clue {
	return func(c Conditions) (float64, string) {
		v := of(c)
		switch {
		case v == nil:
			return 1, name
		case *v >= limit:
			return factor, name + ": " + say.Figures(*v, 4) + unit
		case *v <= clear:
			return 1 / factor, name + ": " + say.Figures(*v, 4) + unit
		}
		return 1, ""
	}
}

// below is the other way round.
func below(of func(Conditions) *float64, limit, clear, factor float64, name, unit string) clue {
	return func(c Conditions) (float64, string) {
		v := of(c)
		switch {
		case v == nil:
			return 1, name
		case *v <= limit:
			return factor, name + ": " + say.Figures(*v, 4) + unit
		case *v >= clear:
			return 1 / factor, name + ": " + say.Figures(*v, 4) + unit
		}
		return 1, ""
	}
}

// set speaks for a cause where a condition is so, and against it where not.
func set(of func(Conditions) *bool, yes, no float64, so, not, name string) clue {
	return func(c Conditions) (float64, string) {
		v := of(c)
		switch {
		case v == nil:
			return 1, name
		case *v:
			return yes, so
		}
		return no, not
	}
}

func count(of func(Conditions) *int64) func(Conditions) *float64 {
	return func(c Conditions) *float64 {
		v := of(c)
		if v == nil {
			return nil
		}
		f := float64(*v)
		return &f
	}
}

var (
	temperature = func(c Conditions) *float64 { return c.ResinTempC }
	exposed     = func(c Conditions) *float64 { return c.ExposureRatio }
	calibrated  = func(c Conditions) *bool { return c.Calibrated }
	filmShare   = func(c Conditions) *float64 { return c.FilmShare }
	clouded     = func(c Conditions) *bool { return c.FilmClouded }
	levelled    = func(c Conditions) *float64 { return c.DaysSinceLevel }
	moved       = func(c Conditions) *bool { return c.MovedSinceLevel }
	bottleAge   = func(c Conditions) *float64 { return c.BottleAgeDays }
	expired     = func(c Conditions) *bool { return c.BottleExpired }
	lift        = func(c Conditions) *float64 { return c.LiftMMMin }
	largest     = func(c Conditions) *float64 { return c.LargestMM2 }
	contact     = func(c Conditions) *float64 { return c.ContactMM2 }
	islands     = count(func(c Conditions) *int64 { return c.Islands })
	supports    = func(c Conditions) *float64 { return c.SupportPct }
	vatShort    = func(c Conditions) *bool { return c.VatShort }
	debris      = func(c Conditions) *bool { return c.DebrisLikely }
	lightShare  = func(c Conditions) *float64 { return c.LightShare }
	restarts    = count(func(c Conditions) *int64 { return c.RunsSinceStart })
	software    = func(c Conditions) *bool { return c.SoftwareNew }
	around      = func(c Conditions) *bool { return c.Surroundings }
	lightAt     = func(c Conditions) *float64 { return c.LightAtPct }
	overSpot    = func(c Conditions) *bool { return c.OverSpot }
	hollow      = func(c Conditions) *bool { return c.Hollow }
)

// Light below weakLightPct of the plate's mean is as if the exposure were a tenth short, which is where
// coupons begin to lose their finest; above evenLightPct nothing is to be seen of it. They are ours.
const (
	weakLightPct = 90
	evenLightPct = 97
)

// known is the table of causes, with the symptoms that each can have.
var known = []entry{
	{"vat_empty", "The vat ran dry", "Look at the level and the height of the last good layer.", "Top up in time; the plan says when.",
		[]string{"ran dry", "let go midway", "void", "delamination"}, []clue{set(vatShort, 8, 0.2, "the vat held less than the plate takes", "the vat held enough", "What the vat held")}},
	{"cold_resin", "Resin too cold", "Measure the resin, warm it to 25 °C and print one copy again.", "Warm resin and room, or expose longer for the cold.",
		[]string{"no adhesion", "let go midway", "delamination", "support torn", "thin part missing", "soft", "pull lines", "visible layer line"},
		[]clue{below(temperature, machine.ColdestUsualC, 23, 4, "Resin temperature", " °C"), above(lift, 150, 40, 1.3, "Lift speed", " mm/min")}},
	{"settled_resin", "Resin settled or aged", "Shake the bottle, stir the vat, print the coupon again.", "Shake and stir; replace an expired bottle.",
		[]string{"soft", "specks", "surface haze", "no adhesion", "delamination", "thin part missing"},
		[]clue{above(bottleAge, 240, 60, 2, "Bottle opened", " days ago"), set(expired, 3, 0.9, "the bottle has expired", "the bottle has not expired", "Whether the bottle has expired")}},
	{"surroundings", "Heat, cold or a knock from outside", "Print it again with the room as it usually is.", "Keep the machine from sun, draught and knocks; note them as they come.",
		[]string{"visible layer line", "layer shift", "delamination", "no adhesion", "machine fault", "let go midway"},
		[]clue{set(around, 6, 0.5, "something in the surroundings was noted around the print", "nothing in the surroundings was noted around it", "Whether anything happened around it")}},
	{"debris", "Debris in the vat", "Drain through a filter and feel the film with a plastic card.", "Clean the vat after every failure.",
		[]string{"stuck to film", "void", "repeating mark", "specks", "no adhesion", "machine fault"},
		[]clue{set(debris, 5, 0.4, "the print before lost something and no cleaning is on record since", "nothing was lost before, or the vat was cleaned", "What the print before left")}},
	{"level", "Plate not level or zero off", "Level again and print the first layers only.", "Relevel after every move and about once a month.",
		[]string{"no adhesion", "elephant foot", "warp", "layer shift"},
		[]clue{set(moved, 4, 0.7, "moved since it was levelled", "not moved since it was levelled", "Whether it was moved"), above(levelled, machine.OldLevelDays, 7, 2, "Levelled", " days ago")}},
	{"under_exposed", "Exposed too short", "Print the coupon at this and at a fifth more.", "Dial in for this machine, resin and layer height.",
		[]string{"no adhesion", "let go midway", "delamination", "support torn", "thin part missing", "soft"},
		[]clue{below(exposed, 0.9, 1.05, 4, "Exposure over the calibrated one", ""), set(calibrated, 0.6, 1.8, "the settings are calibrated", "the settings are not calibrated", "Whether the settings are calibrated"),
			above(lightShare, machine.SoonShare, 0.3, 1.5, "Light, share of its life", ""), below(lightAt, weakLightPct, evenLightPct, 1.5, "Least light where it was seen", " % of the plate's mean")}},
	{"over_exposed", "Exposed too long", "Print the coupon at this and at a fifth less.", "Dial in for this machine, resin and layer height.",
		[]string{"bloated", "elephant foot", "stuck to film", "stuck too well to the plate", "support scar"},
		[]clue{above(exposed, 1.1, 0.95, 4, "Exposure over the calibrated one", ""), set(calibrated, 0.6, 1.6, "the settings are calibrated", "the settings are not calibrated", "Whether the settings are calibrated")}},
	{"weak_supports", "Parts start in mid-air, or supports are weak", "Look at the layer where it begins; add a support there and print one copy.", "Support every island; thicken tips.",
		[]string{"support torn", "let go midway", "thin part missing", "stuck to film"},
		[]clue{above(islands, 1, 0, 3, "Parts that start in mid-air", ""), below(supports, 3, 12, 1.5, "Supports", " % of the volume")}},
	{"peel", "Peeled too hard: large layers, fast lift", "Print it tilted, or with half the lift speed.", "Tilt or hollow large layers; lift slower.",
		[]string{"let go midway", "delamination", "support torn", "pull lines", "visible layer line", "layer shift", "stuck to film"},
		[]clue{above(largest, 1500, 300, 3, "Largest layer of the plate", " mm²"), above(lift, 120, 50, 2, "Lift speed", " mm/min")}},
	{"small_contact", "Too little holds it to the plate", "Look at the first layers that stayed; print with a raft.", "A raft, more bottom layers, or another orientation.",
		[]string{"no adhesion", "let go midway", "warp"}, []clue{below(contact, 30, 200, 2.5, "Contact with the plate", " mm²")}},
	{"suction", "A hollow part sucked at the film", "Look whether the part has a hole near the plate.", "Drain holes where the cup begins.",
		[]string{"suction blow-out", "void", "let go midway", "delamination"}, []clue{set(hollow, 4, 0.3, "the part is hollow", "the part is solid", "Whether the part is hollow")}},
	{"film", "Film worn or slack", "Hold the film against the light; tap it: it should ring.", "Change the film.",
		[]string{"pull lines", "surface haze", "stuck to film", "delamination", "thin part missing", "repeating mark", "specks", "support torn"},
		[]clue{set(clouded, 4, 0.6, "the film was noted as clouded", "the film was noted as clear", "Whether the film is clouded"), above(filmShare, machine.SoonShare, 0.3, 2.5, "Film, share of its life", "")}},
	{"slicer", "The file or its slicing", "Slice it anew in the software used before and print one copy.", "Keep the software that works; check islands in the slices.",
		[]string{"thin part missing", "layer shift", "void", "bloated", "machine fault"}, []clue{set(software, 3, 0.6, "another software than the print before", "the same software as before", "Whether the software changed")}},
	{"restart", "The machine needs a restart", "Switch it off and on, and print the same file.", "Restart between jobs; note it on the quirk card.",
		[]string{"layer shift", "machine fault", "no adhesion"}, []clue{above(restarts, 3, 0, 2, "Prints without a restart", "")}},
	{"light", "Panel or light uneven or worn", "Run the exposure test on white paper and look for dark fields.", "Replace the panel; mark dead places on the plate until then.",
		[]string{"repeating mark", "soft", "thin part missing", "no adhesion"}, []clue{above(lightShare, machine.SoonShare, 0.2, 3, "Light, share of its life", ""), below(lightAt, weakLightPct, evenLightPct, 3, "Least light where it was seen", " % of the plate's mean"),
			set(overSpot, 6, 0.8, "a copy with it lay over a spot known as dead or weak", "none with it lay over a spot known as dead or weak", "Whether it lay over a dead or weak spot")}},
}
