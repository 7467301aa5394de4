package instruments

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

var instrumentEntry = task.Entry[bench.Instrument]{Table: "instrument",
	Head: func(i *bench.Instrument) task.Head {
		return task.Head{ID: &i.ID, Code: &i.Code, Version: &i.Version, CreatedMS: &i.CreatedMS}
	},
	Get: (*store.Tx).Instrument, Put: (*store.Tx).SaveInstrument}

// SaveInstrument creates or changes an instrument; one whose kind is not said is a caliper.
func (w *Tasks) SaveInstrument(ctx context.Context, i bench.Instrument) (bench.Instrument, error) {
	if i.Kind == "" {
		i.Kind = "caliper"
	}
	return task.Save(ctx, w.Base, instrumentEntry, i, func(_ *store.Tx, i *bench.Instrument) error { return i.Check() })
}

// RenameInstrument gives an instrument another name; what was read with it stays as it is.
func (w *Tasks) RenameInstrument(ctx context.Context, id string, version int64, name string) (bench.Instrument, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Instrument, error) {
		i, err := t.Instrument(id)
		if err != nil {
			return i, err
		}
		if err := task.Stale(i.Version, version); err != nil {
			return i, err
		}
		before := i
		if i.Name, i.Version = strings.TrimSpace(name), i.Version+1; i.Name == "" {
			return i, quantity.Errorf("name", "is missing; say what it is called at the bench")
		}
		if err := w.Note(t, "instrument", id, "rename the instrument", "", before, i); err != nil {
			return i, err
		}
		return i, t.SaveInstrument(i)
	})
}

// Instruments lists the instruments.
func (w *Tasks) Instruments(ctx context.Context) ([]bench.Instrument, error) {
	return task.ReadList(ctx, w.Base, (*store.Tx).Instruments)
}

// Doubtful is a time in which an instrument cannot be relied on, in words, with how many
// readings on record were taken in it.
type Doubtful struct {
	Says     string `json:"says"`
	Readings int64  `json:"readings"`
}

// InstrumentCard is an instrument with its checks, what they put in doubt, and its studies,
// the last first. State says whether it can be relied on now.
type InstrumentCard struct {
	Instrument bench.Instrument `json:"instrument"`
	Unit       string           `json:"unit"`
	Lengths    bool             `json:"lengths"`
	Readings   int64            `json:"readings"`
	State      string           `json:"state" enum:"unchecked,good,out"`
	Checks     []Checked        `json:"checks"`
	Doubts     []Doubtful       `json:"doubts"`
	Studies    []Study          `json:"studies"`
}

// Checked is a check, and whether the instrument was within its tolerance.
type Checked struct {
	bench.InstrumentCheck
	Good bool `json:"good"`
}

// InstrumentCards are all instruments with what is known of them.
func (w *Tasks) InstrumentCards(ctx context.Context) (out []InstrumentCard, err error) {
	out = []InstrumentCard{}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		all, err := t.Instruments()
		if err != nil {
			return err
		}
		for _, i := range all {
			card, err := instrumentCard(t, i)
			if err != nil {
				return err
			}
			out = append(out, card)
		}
		return nil
	})
	return out, err
}

// Instrument is one instrument with what is known of it.
func (w *Tasks) Instrument(ctx context.Context, id string) (out InstrumentCard, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		i, err := t.Instrument(id)
		if err != nil {
			return err
		}
		out, err = instrumentCard(t, i)
		return err
	})
	return out, err
}

func instrumentCard(t *store.Tx, i bench.Instrument) (InstrumentCard, error) {
	out := InstrumentCard{Instrument: i, Unit: i.Unit(), Lengths: i.Unit() == "mm", State: "unchecked", Checks: []Checked{}, Doubts: []Doubtful{}}
	checks, err := t.InstrumentChecks()
	if err != nil {
		return out, err
	}
	var mine []bench.InstrumentCheck
	for _, c := range slices.Backward(checks) {
		if c.InstrumentID == i.ID {
			mine = append(mine, c)
			out.Checks = append(out.Checks, Checked{c, c.Counting().Good()})
			if c.TakenBackMS == nil && out.State == "unchecked" {
				out.State = map[bool]string{true: "good", false: "out"}[c.Counting().Good()]
			}
		}
	}
	if out.Readings, err = t.CountReadingsOfInstrument(i.ID, math.MinInt64, math.MaxInt64); err != nil {
		return out, err
	}
	for _, d := range bench.DoubtsOf(mine) {
		n, err := t.CountReadingsOfInstrument(i.ID, d.FromMS, d.UntilMS)
		if err != nil {
			return out, err
		}
		out.Doubts = append(out.Doubts, Doubtful{Says: DoubtWords(i, d), Readings: n})
	}
	out.Studies, err = studiesOf(t, i)
	return out, err
}

// DoubtWords say when an instrument cannot be relied on, and why.
func DoubtWords(i bench.Instrument, d metrology.Doubt) string {
	from, until := "from its first reading", "until now"
	if d.FromMS > math.MinInt64 {
		from = "since its last good check on " + say.Day(d.FromMS)
	}
	if d.UntilMS < math.MaxInt64 {
		until = "until the good one on " + say.Day(d.UntilMS)
	}
	return fmt.Sprintf("On %s %s showed %s for %s %s, which is beyond its tolerance of %s: readings %s %s are in doubt.", say.Day(d.Failed.AtMS), i.Name,
		say.Figures(d.Failed.Shown, 6), say.Figures(d.Failed.True, 6), i.Unit(), say.Figures(d.Failed.Tolerance, 3), from, until)
}

// CheckInstrument appends a check of an instrument.
func (w *Tasks) CheckInstrument(ctx context.Context, id string, c bench.InstrumentCheck) (InstrumentCard, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (InstrumentCard, error) {
		i, err := t.Instrument(id)
		if err != nil {
			return InstrumentCard{}, err
		}
		if c.ID, err = w.NewID(); err != nil {
			return InstrumentCard{}, err
		}
		c.InstrumentID, c.AtMS, c.TakenBackMS, c.TakenBackWhy = id, w.NowMS(), nil, ""
		if err := t.SaveInstrumentCheck(c); err != nil {
			return InstrumentCard{}, err
		}
		return instrumentCard(t, i)
	})
}

// TakeCheckBack takes a check back with its reason; what it put in doubt is so no more.
func (w *Tasks) TakeCheckBack(ctx context.Context, id, checkID, why string) (InstrumentCard, error) {
	if why == "" {
		return InstrumentCard{}, quantity.Errorf("why", "is missing; say why it is taken back")
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (InstrumentCard, error) {
		i, err := t.Instrument(id)
		if err != nil {
			return InstrumentCard{}, err
		}
		checks, err := t.InstrumentChecks()
		if err != nil {
			return InstrumentCard{}, err
		}
		c, there := task.ByID(checks, func(c bench.InstrumentCheck) string { return c.ID })[checkID]
		switch {
		case !there || c.InstrumentID != id:
			return InstrumentCard{}, quantity.Errorf("check_id", "is no check of %s", i.Name)
		case c.TakenBackMS != nil:
			return InstrumentCard{}, fmt.Errorf("the check was taken back already: %w", bench.ErrConflict)
		}
		before := c
		c.TakenBackMS, c.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := w.Note(t, "instrument_check", c.ID, "take a check back", why, before, c); err != nil {
			return InstrumentCard{}, err
		}
		if err := t.SaveInstrumentCheck(c); err != nil {
			return InstrumentCard{}, err
		}
		return instrumentCard(t, i)
	})
}

// Trust says how far an instrument can be relied on: its last check, its last study, and the times in which it could not.
func Trust(t *store.Tx, i bench.Instrument) ([]string, error) {
	checks, err := t.InstrumentChecks()
	if err != nil {
		return nil, err
	}
	out := []string{}
	var mine []bench.InstrumentCheck
	for _, c := range checks {
		if c.InstrumentID == i.ID && c.TakenBackMS == nil {
			mine = append(mine, c)
		}
	}
	if len(mine) == 0 {
		out = append(out, "Never checked against something known.")
	} else {
		c := mine[len(mine)-1]
		out = append(out, fmt.Sprintf("Last checked on %s against %s: it showed %s for %s %s, tolerance %s.", say.Day(c.AtMS), c.Against, say.Figures(c.ShownValue, 6), say.Figures(c.TrueValue, 6), i.Unit(), say.Figures(c.Tolerance, 3)))
	}
	for _, d := range bench.DoubtsOf(mine) {
		out = append(out, DoubtWords(i, d))
	}
	study, err := LastStudy(t, i)
	if err == nil && study != nil {
		out = append(out, fmt.Sprintf("Repeatability study %s: %s", study.Study.Code, strings.Join(study.Says, " ")))
	}
	return out, err
}
