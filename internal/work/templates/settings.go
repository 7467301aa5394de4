package templates

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// SettingsDraft is what new settings of a machine begin with, and from what: the settings that were
// made its template, or its usual moves and waits. Asked of a resin and a layer height, the exposures
// come with it where the template is for both.
type SettingsDraft struct {
	Profile bench.Profile `json:"profile"`
	From    string        `json:"from"`
	// TemplateID is the template's, empty where the machine has none.
	TemplateID string `json:"template_id"`
}

// DraftRequest asks what new settings begin with.
type DraftRequest struct {
	MachineID string
	ResinID   string
	LayerUM   float64
}

// SettingsDraft is what new settings begin with.
func (w *Tasks) SettingsDraft(ctx context.Context, in DraftRequest) (out SettingsDraft, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		m, err := t.Machine(in.MachineID)
		if err != nil {
			return err
		}
		template, err := TemplateOf(t, m.ID)
		if err != nil {
			return err
		}
		out = begin(m, template, in)
		return nil
	})
	return out, err
}

func begin(m bench.Machine, template *bench.Profile, in DraftRequest) SettingsDraft {
	p := bench.Profile{MachineID: m.ID, ResinID: in.ResinID, LayerUM: in.LayerUM, Basis: "default", Lift: bench.Moves{}, Retract: bench.Moves{}, Options: bench.Options{}}
	if template == nil {
		m.Usual(&p)
		return SettingsDraft{Profile: p, From: "the usual moves and waits of " + m.Name}
	}
	if p.LayerUM == 0 {
		p.LayerUM = template.LayerUM
	}
	p.BeginsWith(*template)
	return SettingsDraft{Profile: p, From: kit.SettingsName(*template), TemplateID: template.ID}
}

// TemplateOf are the settings that new ones of a machine begin with; nil where none were made so.
func TemplateOf(t *store.Tx, machineID string) (*bench.Profile, error) {
	profiles, err := t.Profiles()
	return bench.TemplateOf(profiles, machineID), err
}

// MakeTemplate makes settings what new ones of their machine begin with, or lets that be.
func (w *Tasks) MakeTemplate(ctx context.Context, id string, version int64, template bool) (bench.Profile, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Profile, error) {
		p, err := t.Profile(id)
		if err != nil {
			return p, err
		}
		if err := task.Stale(p.Version, version); err != nil {
			return p, err
		}
		switch {
		case template && p.ArchivedMS != nil:
			return p, fmt.Errorf("%s were withdrawn; bring them back first: %w", kit.SettingsName(p), bench.ErrConflict)
		case template && p.Basis == "sealed":
			return p, quantity.Errorf("template", "is not possible with sealed settings; they hide what new ones would begin with")
		}
		before := p
		p.Version, p.TemplateSinceMS = p.Version+1, nil
		if template {
			p.TemplateSinceMS = quantity.Ptr(w.NowMS())
		}
		if err := w.Note(t, "profile", id, "say what new settings begin with", "", before, p); err != nil {
			return p, err
		}
		return p, t.SaveProfile(p)
	})
}
