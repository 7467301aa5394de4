package bench

// Amendment is a change of an entry that was on record: which command made it, when
// and why, and what it changed, before and after, as JSON objects of the fields that
// differ. It is enough to put the change back.
type Amendment struct {
	ID      string `json:"id"`
	Kind    string `json:"kind"`
	Entry   string `json:"entry"`
	AtMS    int64  `json:"at_ms"`
	Command string `json:"command"`
	Why     string `json:"why"`
	Before  string `json:"before_entry"`
	After   string `json:"after_entry"`
}
