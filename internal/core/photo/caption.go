package photo

// Fact is something that is known of a photograph, as it is said.
type Fact struct {
	Name  string `json:"name"`
	Value string `json:"value"`
}

// Differing splits the facts of photographs that are laid side by side: those that all of
// them share, and for each those in which any differs from any other. Every photograph has
// the same names in the same order; an empty value is one that is not known.
func Differing(facts [][]Fact) (common []Fact, differing [][]Fact) {
	common, differing = []Fact{}, make([][]Fact, len(facts))
	for i := range facts {
		differing[i] = []Fact{}
	}
	if len(facts) == 0 {
		return common, differing
	}
	for at, first := range facts[0] {
		same := true
		for _, f := range facts {
			same = same && f[at].Value == first.Value
		}
		if same {
			if first.Value != "" {
				common = append(common, first)
			}
			continue
		}
		for i, f := range facts {
			value := f[at]
			if value.Value == "" {
				value.Value = "not known"
			}
			differing[i] = append(differing[i], value)
		}
	}
	return common, differing
}
