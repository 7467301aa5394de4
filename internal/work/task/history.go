package task

import (
	"bytes"
	"encoding/json"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// Note keeps what a command changed of an entry: the fields that differ, before and
// after. Nothing is kept where nothing differs.
func (w *Base) Note(t *store.Tx, kind, id, command, why string, before, after any) error {
	was, is, err := differing(before, after)
	if err != nil {
		return fmt.Errorf("note what changed of %s: %w", kind, err)
	}
	if was == nil {
		return nil
	}
	a := bench.Amendment{Kind: kind, Entry: id, AtMS: w.NowMS(), Command: command, Why: why, Before: string(was), After: string(is)}
	if a.ID, err = w.NewID(); err != nil {
		return err
	}
	return t.SaveAmendment(a)
}

// versionField changes with every change and tells nothing of it.
const versionField = "version"

// differing are the fields of two JSON objects that are not the same, nil where all
// are.
func differing(before, after any) (was, is []byte, err error) {
	a, err := fields(before)
	if err != nil {
		return nil, nil, err
	}
	b, err := fields(after)
	if err != nil {
		return nil, nil, err
	}
	for name, v := range a {
		if other, there := b[name]; there && (name == versionField || SameValue(v, other)) {
			delete(a, name)
			delete(b, name)
		}
	}
	if len(a) == 0 && len(b) == 0 {
		return nil, nil, nil
	}
	if was, err = json.Marshal(a); err != nil {
		return nil, nil, err
	}
	is, err = json.Marshal(b)
	return was, is, err
}

// SameValue says that two values of JSON are the same: a list that is empty and one that is not
// there are.
func SameValue(a, b json.RawMessage) bool {
	none := func(v json.RawMessage) bool { return len(v) == 0 || string(v) == "null" || string(v) == "[]" }
	return bytes.Equal(a, b) || none(a) && none(b)
}

func fields(v any) (out map[string]json.RawMessage, err error) {
	text, err := json.Marshal(v)
	if err != nil {
		return nil, err
	}
	return out, json.Unmarshal(text, &out)
}

// Merge is an entry with the fields that a change names put in their place: those that
// it does not name stay as they are, to the last digit; null is not known. Only the
// fields allowed may be named.
func Merge[E any](entry E, change json.RawMessage, allowed ...string) (E, error) {
	var named map[string]json.RawMessage
	if err := json.Unmarshal(change, &named); err != nil {
		return entry, quantity.Errorf("body", "is no JSON object (%v)", err)
	}
	may := map[string]bool{}
	for _, name := range allowed {
		may[name] = true
	}
	for name := range named {
		if !may[name] && name != versionField {
			return entry, quantity.Errorf(name, "cannot be changed by this command")
		}
	}
	// A pointer that is merged into would write through to the entry it was copied from.
	text, err := json.Marshal(entry)
	if err != nil {
		return entry, err
	}
	var out E
	if err := json.Unmarshal(text, &out); err != nil {
		return entry, err
	}
	if err := json.Unmarshal(change, &out); err != nil {
		return entry, quantity.Errorf("body", "cannot be read (%v)", err)
	}
	return out, nil
}

// Stale refuses a change that was made against another version.
func Stale(have, against int64) error {
	if have != against {
		return bench.ErrStale
	}
	return nil
}
