package experiment

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/kit"
)

// Combination is one of a plan: a level of each factor, the settings that it takes, what
// there is of it already and what is to be printed, piece by piece. Trouble says why it
// cannot be planned.
type Combination struct {
	Levels   []string             `json:"levels"`
	Machine  string               `json:"machine"`
	Resin    string               `json:"resin"`
	Settings string               `json:"settings"`
	Base     string               `json:"base"`
	Changed  []kit.SettingsChange `json:"changed"`
	Cells    []CombinationCell    `json:"cells"`
	Notes    []string             `json:"notes"`
	Trouble  string               `json:"trouble"`

	making making
	isNew  bool
}

// CombinationCell counts the prints of one piece with a combination: on record or under
// way, planned before, and those that this plan adds.
type CombinationCell struct {
	Prints  int64 `json:"prints"`
	Planned int64 `json:"planned"`
	Add     int64 `json:"add"`
}

// combinations makes all combinations of the levels wanted, each with its settings.
func (p *planner) combinations() (out []Combination, err error) {
	counter := make([]int, len(p.factors))
	for {
		c := Combination{Levels: make([]string, len(p.factors)), Changed: []kit.SettingsChange{}, Cells: make([]CombinationCell, len(p.pieces)), Notes: []string{}}
		for i, at := range counter {
			c.Levels[i] = p.factors[i].Levels[at]
		}
		if err := p.make(&c); err != nil {
			return nil, err
		}
		p.have(&c)
		out = append(out, c)
		i := len(counter) - 1
		for ; i >= 0; i-- {
			if counter[i]++; counter[i] < len(p.factors[i].Levels) {
				break
			}
			counter[i] = 0
		}
		if i < 0 {
			return out, nil
		}
	}
}

// at is the level of a factor, or empty where it is not under test.
func (p *planner) at(c Combination, key string) string {
	for i, f := range p.factors {
		if f.Key == key {
			return c.Levels[i]
		}
	}
	return ""
}

// make finds or makes the settings of a combination and what its plate is prepared with.
func (p *planner) make(c *Combination) error {
	machine, resin := named(p.machines, p.at(*c, machineFactor), func(m bench.Machine) string { return m.Name }), named(p.resins, p.at(*c, resinFactor), func(r bench.Resin) string { return r.Name })
	c.Machine, c.Resin = machine.Name, resin.Name
	base, ok := p.base(*c, machine.ID, resin.ID)
	if !ok {
		c.Trouble = fmt.Sprintf("There are no settings for %s with %s to start from; dial one in, or enter them.", resin.Name, machine.Name)
		return nil
	}
	c.Base, c.making = kit.SettingsName(base), making{profile: base, scalePct: 100, plate: bench.Plate{MachineID: machine.ID}}
	for i, f := range p.factors {
		if setters[f.Key] == nil {
			continue
		}
		if inSettings(f.Key) && p.shows(base, f.Key) == c.Levels[i] {
			continue // as it is, with all its digits
		}
		if base.Basis == "sealed" && inSettings(f.Key) {
			c.Trouble = fmt.Sprintf("%s hides its settings, so its %s cannot be set.", kit.SettingsName(base), strings.ToLower(f.Name))
			return nil
		}
		if err := c.making.set(f.Key, c.Levels[i], p.profiles); err != nil {
			c.Trouble = f.Name + " " + err.Error() + "."
			return nil
		}
	}
	if p.settle(c, base); p.err != nil {
		return p.err
	}
	return p.fitted(c)
}

// named finds what a level names, or the only one.
func named[E any](list []E, name string, of func(E) string) E {
	for _, e := range list {
		if of(e) == name {
			return e
		}
	}
	return list[0]
}

// base are the settings that a combination starts from: those asked for, those that prints
// of it used, those that its machine and resin were printed with most in this review, or
// the newest that fit its policy; with the layer height that it asks for, where there are.
func (p *planner) base(c Combination, machineID, resinID string) (best bench.Profile, ok bool) {
	rank := func(o bench.Profile) (rank [5]int64) {
		yes := func(b bool) int64 {
			if b {
				return 1
			}
			return 0
		}
		layer := p.at(c, "layer_um")
		return [5]int64{yes(p.usedBy(c, o)), yes(layer == "" || p.shows(o, "layer_um") == layer), yes(slices.Contains(p.request.BaseIDs, o.ID)), p.used(o), yes(o.Basis == policyBasis[p.review.Policy])}
	}
	for _, o := range p.profiles {
		if o.MachineID != machineID || o.ResinID != resinID {
			continue
		}
		a, b := rank(o), rank(best)
		if !ok || slices.Compare(a[:], b[:]) > 0 || a == b && o.CreatedMS >= best.CreatedMS {
			best, ok = o, true
		}
	}
	return best, ok
}

// policyBasis is the basis of settings that a policy asks for.
var policyBasis = map[string]string{"each_calibrated": "calibrated", "maker_default": "default"}

// used counts the prints of the review with some settings, usedBy reports those of the
// very combination.
func (p *planner) used(o bench.Profile) (n int64) {
	for _, print := range p.matrix.prints {
		if print.sheet.Profile.ID == o.ID && !print.planned {
			n++
		}
	}
	return n
}

func (p *planner) usedBy(c Combination, o bench.Profile) bool {
	return slices.ContainsFunc(p.matrix.prints, func(print matrixPrint) bool { return print.sheet.Profile.ID == o.ID && p.isOf(print, c) })
}

// isOf reports a print of a combination.
func (p *planner) isOf(print matrixPrint, c Combination) bool {
	for i, f := range p.factors {
		at := slices.IndexFunc(print.all, func(l level) bool { return l.key == f.Key })
		if at < 0 || print.all[at].words != c.Levels[i] {
			return false
		}
	}
	return true
}

// shows is what settings show of a factor.
func (p *planner) shows(o bench.Profile, key string) string {
	levels, known := p.shown[o.ID]
	if !known || o.ID == "" {
		var err error
		if levels, err = p.levels(making{profile: o, scalePct: 100}, nil); err != nil {
			p.err = errors.Join(p.err, err) // told when the combination is made
			return ""
		}
		p.shown[o.ID] = levels
	}
	for _, l := range levels {
		if l.key == key {
			return l.words
		}
	}
	return ""
}

// settle names what was changed, and takes settings that are on record where there are
// such. The basis of an exposure holds while nothing that hangs on it was changed.
func (p *planner) settle(c *Combination, base bench.Profile) {
	made := &c.making.profile
	c.Changed = kit.ChangesFrom(base, *made)
	if len(c.Changed) == 0 {
		c.Settings = kit.SettingsName(base)
		return
	}
	for _, o := range p.profiles {
		if o.MachineID == made.MachineID && o.ResinID == made.ResinID && len(kit.ChangesFrom(*made, o)) == 0 {
			c.making.profile, c.Settings, c.Changed = o, kit.SettingsName(o), []kit.SettingsChange{}
			return
		}
	}
	c.isNew = true
	var words []string
	for _, change := range c.Changed {
		words = append(words, change.What+" "+change.To)
	}
	made.ID, made.Code, made.Version, made.ParentID, made.Note = "", "", 0, quantity.Ptr(base.ID), ""
	made.Name, c.Settings = strings.Join(words, "; "), strings.Join(words, "; ")+", from "+kit.SettingsName(base)
	hangs := func(change kit.SettingsChange) bool {
		return slices.Contains([]string{"layer height", "exposure", "bottom layers", "bottom exposure", "light power", "anti-aliasing"}, change.What)
	}
	if slices.ContainsFunc(c.Changed, hangs) {
		made.Basis, made.SeriesID = "adjusted", nil
	}
	if !quantity.Equal(base.LayerUM, made.LayerUM) && quantity.Equal(quantity.Or(base.ExposureS, 0), quantity.Or(made.ExposureS, 0)) {
		c.Notes = append(c.Notes, fmt.Sprintf("Its exposure is that of %s: dial in %s first.", p.shows(base, "layer_um"), p.shows(*made, "layer_um")))
	}
}

// fitted refuses a combination that the machine is not fitted for now.
func (p *planner) fitted(c *Combination) error {
	ids := make([]string, len(p.pieces))
	for i, piece := range p.pieces {
		ids[i] = piece.ID
	}
	now, err := p.levels(c.making, ids)
	if err != nil {
		return err
	}
	for i, f := range p.factors {
		at := slices.IndexFunc(now, func(l level) bool { return l.key == f.Key })
		if !f.Settable && now[at].words != c.Levels[i] {
			c.Trouble = fmt.Sprintf("%s is %s now: %s.", f.Name, cmp.Or(now[at].words, "not known"), hands(f.Key))
		}
	}
	return nil
}

// have counts what there is of a combination.
func (p *planner) have(c *Combination) {
	for _, print := range p.matrix.prints {
		if !p.isOf(print, *c) {
			continue
		}
		if _, left := p.review.LeftOut.Reason(print.sheet.Run.ID); left {
			continue
		}
		for i, piece := range p.pieces {
			if !slices.ContainsFunc(print.sheet.Specimens, func(s bench.Specimen) bool { return s.PieceID == piece.ID }) {
				continue
			}
			if print.planned {
				c.Cells[i].Planned++
			} else {
				c.Cells[i].Prints++
			}
		}
	}
}

// choose says how many prints each combination is to have: all that are possible, or the
// fewest by which the effects are told apart.
func (p *planner) choose(all []Combination) error {
	fewest, err := p.fewest(all)
	if err != nil {
		return err
	}
	for i := range all {
		c := &all[i]
		without := slices.ContainsFunc(p.request.Without, func(l []string) bool { return slices.Equal(l, c.Levels) })
		if c.Trouble != "" || without || p.request.Fewest && !slices.ContainsFunc(fewest, func(l []string) bool { return slices.Equal(l, c.Levels) }) {
			continue
		}
		for k := range c.Cells {
			c.Cells[k].Add = max(0, p.request.Prints-c.Cells[k].Prints-c.Cells[k].Planned)
		}
		if p.request.Mixed { // a plate holds all pieces, so all get what the scantest lacks
			most := int64(0)
			for _, cell := range c.Cells {
				most = max(most, cell.Add)
			}
			for k := range c.Cells {
				c.Cells[k].Add = most
			}
		}
	}
	return nil
}

// fewest are the combinations by which every effect, and whether two work on each other,
// can be told.
func (p *planner) fewest(all []Combination) ([][]string, error) {
	_, missing, err := p.tell(all, func(c CombinationCell) int64 { return c.Prints + c.Planned })
	return missing, err
}

// tell is what so many prints of each cell tell, and the combinations that would tell the
// rest.
func (p *planner) tell(all []Combination, prints func(CombinationCell) int64) ([]string, [][]string, error) {
	m := matrix{out: Matrix{Factors: p.factors}}
	for i, f := range p.factors {
		if len(f.Levels) > 1 {
			m.varied = append(m.varied, i)
		}
	}
	for _, c := range all {
		row := MatrixRow{Levels: c.Levels}
		for _, cell := range c.Cells {
			row.Cells = append(row.Cells, MatrixCell{Prints: prints(cell)})
		}
		m.out.Rows = append(m.out.Rows, row)
	}
	return m.tell(func(c MatrixCell) int64 { return c.Prints })
}
