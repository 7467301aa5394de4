package experiment

func settable(string) bool { return false }
