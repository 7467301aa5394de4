package kit

import (
	"context"
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// ExposureRatio is the profile's exposure over the newest calibrated one of the
// same machine, resin and layer height; nil where there is none.
func ExposureRatio(t *store.Tx, p bench.Profile) (*float64, error) {
	profiles, err := t.Profiles()
	if err != nil || p.ExposureS == nil {
		return nil, err
	}
	var out *float64
	for _, other := range profiles {
		if other.Basis == "calibrated" && other.MachineID == p.MachineID && other.ResinID == p.ResinID && quantity.Equal(other.LayerUM, p.LayerUM) && other.ExposureS != nil {
			out = quantity.Ptr(*p.ExposureS / *other.ExposureS)
		}
	}
	return out, nil
}

// SettingsName names settings by what tells them from their neighbours: code, own name
// or the sealed one, and basis.
func SettingsName(p bench.Profile) string {
	name := p.Name
	if name == "" {
		name = p.SealedName
	}
	if name == "" && p.ExposureS != nil {
		name = say.Figure(*p.ExposureS) + " s"
	}
	if name != "" {
		name = " " + name
	}
	return fmt.Sprintf("%s%s (%s)", p.Code, name, p.Basis)
}

// AddProfile keeps a set of settings that did not come from a series. Where they name no
// moves and no waits, those are the machine's usual ones.
func (w *Tasks) AddProfile(ctx context.Context, p bench.Profile) (bench.Profile, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Profile, error) {
		p, err := ReadyProfile(t, p)
		if err != nil {
			return p, err
		}
		err = w.KeepProfile(t, &p)
		return p, err
	})
}

// ReadyProfile holds settings against what they refer to, and gives them the machine's usual
// moves and waits where they name none.
func ReadyProfile(t *store.Tx, p bench.Profile) (bench.Profile, error) {
	if p.Basis == "calibrated" || p.Basis == bench.BasisSeries {
		return p, quantity.Errorf("basis", "%s comes from a series; choose default, adjusted, borrowed, own or sealed", p.Basis)
	}
	if err := p.Check(); err != nil {
		return p, err
	}
	m, err := t.Machine(p.MachineID)
	if err != nil {
		return p, err
	}
	if len(p.Lift) == 0 && len(p.Retract) == 0 && p.ReleaseS == nil && p.WaitBeforeS == nil && p.WaitAfterS == nil && p.WaitLiftS == nil {
		m.Usual(&p)
	}
	if p.ParentID != nil {
		if _, err := t.Profile(*p.ParentID); err != nil {
			return p, quantity.Errorf("parent_id", "names settings that cannot be found (%v)", err)
		}
	}
	return p, nil
}

// KeepProfile checks, numbers and keeps new settings.
func (w *Tasks) KeepProfile(t *store.Tx, p *bench.Profile) error {
	if err := p.Check(); err != nil {
		return err
	}
	var err error
	if p.ID, err = w.NewID(); err != nil {
		return err
	}
	number, err := t.NextNumber("profile")
	if err != nil {
		return err
	}
	p.Code, p.CreatedMS, p.Version = bench.Code("profile", number), w.NowMS(), 1
	return t.SaveProfile(*p)
}

// Profiles lists the profiles.
func (w *Tasks) Profiles(ctx context.Context) ([]bench.Profile, error) {
	return task.ReadList(ctx, w.Base, (*store.Tx).Profiles)
}

// AntialiasingWords is how edges are softened: the word of the settings with their
// values.
func AntialiasingWords(p bench.Profile) string {
	words := []string{}
	if p.Antialiasing != "" {
		words = append(words, p.Antialiasing)
	}
	if options := OptionWords(p.Options); options != "" {
		words = append(words, options)
	}
	return strings.Join(words, ", ")
}

// OptionWords are named values with their units: blur 2 px, grey level 4.
func OptionWords(options bench.Options) string {
	words := make([]string, len(options))
	for i, o := range options {
		words[i] = strings.TrimSpace(o.Name + " " + o.Value + " " + o.Unit)
	}
	return strings.Join(words, ", ")
}

// MovesWords are the stages of a lift or retract: 3 mm at 40 mm/min, 4 mm at 120 mm/min.
func MovesWords(moves bench.Moves) string {
	words := make([]string, len(moves))
	for i, m := range moves {
		words[i] = fmt.Sprintf("%s mm at %s mm/min", say.Figure(m.MM), say.Figure(m.MMMin))
	}
	return strings.Join(words, ", ")
}

// SettingsWords are all that settings say, part by part; what they hide is said to be
// hidden, and what nobody entered is left out.
func SettingsWords(p bench.Profile) []string {
	words := []string{say.Figure(p.LayerUM) + " µm layers"}
	seconds := func(name string, v *float64) {
		if v != nil {
			words = append(words, name+" "+say.Figure(*v)+" s")
		}
	}
	switch {
	case p.Basis == "sealed":
		words = append(words, fmt.Sprintf("sealed as %q, its exposures hidden", p.SealedName))
	case p.Basis == bench.BasisSeries:
		words = append(words, "each cell its own exposure")
	}
	seconds("exposure", p.ExposureS)
	if p.BottomLayers != nil && *p.BottomLayers > 0 {
		words = append(words, say.Counted(*p.BottomLayers, "bottom layer"))
		seconds("bottom exposure", p.BottomExposureS)
	}
	if p.TransitionLayers != nil && *p.TransitionLayers > 0 {
		words = append(words, say.Counted(*p.TransitionLayers, "transition layer"))
	}
	if p.ReleaseS != nil {
		seconds("release", p.ReleaseS)
	} else {
		if len(p.Lift) > 0 {
			words = append(words, "lift "+MovesWords(p.Lift))
		}
		if len(p.Retract) > 0 {
			words = append(words, "retract "+MovesWords(p.Retract))
		}
	}
	for _, wait := range []struct {
		name string
		v    *float64
	}{{"wait before light", p.WaitBeforeS}, {"wait after light", p.WaitAfterS}, {"rest after lift", p.WaitLiftS}} {
		if quantity.Or(wait.v, 0) > 0 {
			seconds(wait.name, wait.v)
		}
	}
	if p.LightPowerPct != nil {
		words = append(words, "light at "+say.Figure(*p.LightPowerPct)+" %")
	}
	if soft := AntialiasingWords(p); soft != "" {
		words = append(words, "anti-aliasing "+soft)
	}
	return words
}

// SettingsChange is a line that tells settings from those they were made from.
type SettingsChange struct {
	What string   `json:"what"`
	From string   `json:"from"`
	To   string   `json:"to"`
	Pct  *float64 `json:"pct"`
}

// ChangesFrom lists what settings changed from others, line by line, with per cent where
// both are numbers.
func ChangesFrom(parent, p bench.Profile) []SettingsChange {
	out := []SettingsChange{}
	text := func(what, from, to string) {
		if from != to {
			out = append(out, SettingsChange{What: what, From: from, To: to})
		}
	}
	number := func(what, unit string, from, to *float64) {
		if (from == nil) == (to == nil) && quantity.Or(from, 0) == quantity.Or(to, 0) {
			return
		}
		c := SettingsChange{What: what, From: shown(from, unit), To: shown(to, unit)}
		if from != nil && to != nil && *from != 0 {
			c.Pct = quantity.Ptr(100 * (*to - *from) / *from)
		}
		out = append(out, c)
	}
	whole := func(v *int64) *float64 {
		if v == nil {
			return nil
		}
		return quantity.Ptr(float64(*v))
	}
	number("layer height", "µm", &parent.LayerUM, &p.LayerUM)
	number("exposure", "s", parent.ExposureS, p.ExposureS)
	number("bottom layers", "", whole(parent.BottomLayers), whole(p.BottomLayers))
	number("bottom exposure", "s", parent.BottomExposureS, p.BottomExposureS)
	number("transition layers", "", whole(parent.TransitionLayers), whole(p.TransitionLayers))
	text("lift", MovesWords(parent.Lift), MovesWords(p.Lift))
	text("retract", MovesWords(parent.Retract), MovesWords(p.Retract))
	number("release", "s", parent.ReleaseS, p.ReleaseS)
	number("wait before light", "s", parent.WaitBeforeS, p.WaitBeforeS)
	number("wait after light", "s", parent.WaitAfterS, p.WaitAfterS)
	number("rest after lift", "s", parent.WaitLiftS, p.WaitLiftS)
	number("light power", "%", parent.LightPowerPct, p.LightPowerPct)
	text("anti-aliasing", parent.Antialiasing, p.Antialiasing)
	text("further values", OptionWords(parent.Options), OptionWords(p.Options))
	text("sealed name", parent.SealedName, p.SealedName)
	return out
}

func shown(v *float64, unit string) string {
	if v == nil {
		return "not known"
	}
	return strings.TrimSpace(say.Figure(*v) + " " + unit)
}

// SettingsCard is settings with their name, all they say in words, what they changed from
// their parent, and how often they were printed with.
type SettingsCard struct {
	Profile bench.Profile    `json:"profile"`
	Name    string           `json:"name"`
	Machine string           `json:"machine"`
	Resin   string           `json:"resin"`
	Words   []string         `json:"words"`
	Parent  string           `json:"parent"`
	Changed []SettingsChange `json:"changed"`
	Runs    int64            `json:"runs"`
	// Template says that new settings of its machine begin with it.
	Template bool `json:"template"`
}

// SettingsCards lists all settings, with what tells each from its neighbours.
func (w *Tasks) SettingsCards(ctx context.Context) (out []SettingsCard, err error) {
	out = []SettingsCard{}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		profiles, err := t.Profiles()
		if err != nil {
			return err
		}
		names, err := KitNames(t)
		if err != nil {
			return err
		}
		used, err := t.RunsOfProfiles()
		if err != nil {
			return err
		}
		by := task.ByID(profiles, func(p bench.Profile) string { return p.ID })
		for _, p := range profiles {
			card := SettingsCard{Profile: p, Name: SettingsName(p), Machine: names[p.MachineID], Resin: names[p.ResinID], Words: SettingsWords(p), Changed: []SettingsChange{}, Runs: used[p.ID]}
			if template := bench.TemplateOf(profiles, p.MachineID); template != nil {
				card.Template = template.ID == p.ID
			}
			if parent, known := by[quantity.Or(p.ParentID, "")]; known {
				card.Parent, card.Changed = SettingsName(parent), ChangesFrom(parent, p)
			}
			out = append(out, card)
		}
		return nil
	})
	return out, err
}

// ArchiveProfile withdraws settings with a reason, or brings them back with an empty
// one. What was printed with them stays.
func (w *Tasks) ArchiveProfile(ctx context.Context, id string, version int64, why string) (bench.Profile, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Profile, error) {
		p, err := t.Profile(id)
		if err != nil {
			return p, err
		}
		if err := task.Stale(p.Version, version); err != nil {
			return p, err
		}
		before := p
		p.ArchivedMS, p.ArchivedWhy = nil, why
		if why != "" {
			p.ArchivedMS = quantity.Ptr(w.NowMS())
		}
		p.Version++
		if err := w.Note(t, "profile", id, "withdraw settings", why, before, p); err != nil {
			return p, err
		}
		return p, t.SaveProfile(p)
	})
}

// NameProfile names settings, and says what is to be known of them. What they set stays
// as it is.
func (w *Tasks) NameProfile(ctx context.Context, id string, version int64, name, note string) (bench.Profile, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Profile, error) {
		p, err := t.Profile(id)
		if err != nil {
			return p, err
		}
		if err := task.Stale(p.Version, version); err != nil {
			return p, err
		}
		before := p
		p.Name, p.Note, p.Version = name, note, p.Version+1
		if err := w.Note(t, "profile", id, "name settings", "", before, p); err != nil {
			return p, err
		}
		return p, t.SaveProfile(p)
	})
}

// BottomDoseS is the bottom layers times their exposure in s; nil where either is not
// known.
func BottomDoseS(p bench.Profile) *float64 {
	if p.BottomLayers == nil || p.BottomExposureS == nil {
		return nil
	}
	return quantity.Ptr(float64(*p.BottomLayers) * *p.BottomExposureS)
}

// MotionPart is one part of a motion: its key, its name, and what the settings say of it;
// empty where they do not tell it.
type MotionPart struct{ Key, Name, Words string }

// MotionParts are the parts of a motion in one order for all settings.
func MotionParts(p bench.Profile) []MotionPart {
	seconds := func(v *float64) string {
		if v == nil {
			return ""
		}
		return say.Figure(*v) + " s"
	}
	return []MotionPart{
		{"lift", "Lift", MovesWords(p.Lift)}, {"retract", "Retract", MovesWords(p.Retract)}, {"release_s", "Release", seconds(p.ReleaseS)},
		{"wait_before_s", "Wait before light", seconds(p.WaitBeforeS)}, {"wait_after_s", "Wait after light", seconds(p.WaitAfterS)}, {"wait_lift_s", "Rest after lift", seconds(p.WaitLiftS)},
	}
}

// MotionWords are lift, retract, release and waits as one text; empty where the settings
// hide them.
func MotionWords(p bench.Profile) string {
	var words []string
	for _, w := range SettingsWords(p) {
		for _, kind := range []string{"lift ", "retract ", "release ", "wait ", "rest "} {
			if strings.HasPrefix(w, kind) {
				words = append(words, w)
			}
		}
	}
	return strings.Join(words, "; ")
}
