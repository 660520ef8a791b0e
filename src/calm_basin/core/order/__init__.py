"""What is bought for a job: how much of what, in which packs, cut how."""
