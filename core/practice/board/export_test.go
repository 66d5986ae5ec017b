package board

var RankSum = rankSum
