package kit

import (
	"ojime/internal/store"
)

// ResinNames are the names of the resins by id.
func ResinNames(t *store.Tx) (map[string]string, error) {
	resins, err := t.Resins()
	out := map[string]string{}
	for _, r := range resins {
		out[r.ID] = r.Name
	}
	return out, err
}

// KitNames are the names of machines, resins, pieces and profiles by id.
func KitNames(t *store.Tx) (map[string]string, error) {
	out := map[string]string{}
	machines, err := t.Machines()
	if err != nil {
		return nil, err
	}
	for _, m := range machines {
		out[m.ID] = m.Name
	}
	resins, err := t.Resins()
	if err != nil {
		return nil, err
	}
	for _, r := range resins {
		out[r.ID] = r.Name
	}
	pieces, err := t.PieceNames()
	if err != nil {
		return nil, err
	}
	for _, p := range pieces {
		out[p.ID] = p.Name
	}
	profiles, err := t.Profiles()
	for _, p := range profiles {
		out[p.ID] = SettingsName(p)
	}
	return out, err
}
