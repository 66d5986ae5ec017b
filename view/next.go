package view

import (
	"exactflask/core/judgement/evaluation"
)

// Next is what to do now, in words.
type Next struct {
	evaluation.Next
	Text string            `json:"text"`
	Then evaluation.Onward `json:"then,omitempty" enum:"work,result,report" doc:"the view to go on to, once the titres agree"`
}
