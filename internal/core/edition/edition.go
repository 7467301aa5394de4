// Package edition holds what was published against what the record says now.
package edition

// Figure is a figure by its name, as it reads.
type Figure struct {
	Name string `json:"name"`
	Says string `json:"says"`
}

// Change is a figure that reads otherwise than it did; Is is empty where the record has it no more.
type Change struct {
	Name string `json:"name"`
	Was  string `json:"was"`
	Is   string `json:"is"`
}

// Changes are the figures that read otherwise now, in the order in which they were published. What is new since is no change
// of what was said.
func Changes(was, now []Figure) []Change {
	says := make(map[string]string, len(now))
	for _, f := range now {
		says[f.Name] = f.Says
	}
	out := []Change{}
	for _, f := range was {
		if is := says[f.Name]; is != f.Says {
			out = append(out, Change{f.Name, f.Says, is})
		}
	}
	return out
}
