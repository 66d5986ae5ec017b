package view

import "exactflask/core/judgement/experiment"

// Next is what to do now, in words.
type Next struct {
	experiment.Next
	Text string            `json:"text"`
	Then experiment.Onward `json:"then,omitempty" enum:"work,result,report" doc:"the view to go on to, once the titres agree"`
}
