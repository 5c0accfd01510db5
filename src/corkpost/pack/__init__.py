"""Finished work to paper and files."""
