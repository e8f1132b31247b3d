"""The one application of the server.

models      what is stored
actions     what can be done, each under one verb; the page, a command and a task call the same
api         thin endpoints over the actions
tasks       work that a worker process takes
"""
