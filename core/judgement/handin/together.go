package handin

import "slices"

// Together is who has to agree before a report is handed in that several wrote in: each of those who
// wrote and still belong to the notebook, in the order in which they are named, but for whoever asks
// and those who agreed to it as it stands. With a rule that either may, nobody.
func Together(either bool, belong, wrote, agreed []string, asks string) (missing []string) {
	if either {
		return nil
	}
	for _, who := range belong {
		if who != asks && slices.Contains(wrote, who) && !slices.Contains(agreed, who) {
			missing = append(missing, who)
		}
	}
	return missing
}
